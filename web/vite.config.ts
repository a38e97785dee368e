import { readFileSync } from 'node:fs';

import { svelte } from '@sveltejs/vite-plugin-svelte';
import { defineConfig } from 'vitest/config';

// What the API's page is made of comes with its licences beside it.
const licences = {
	name: 'licences-of-the-api-page',
	generateBundle(this: { emitFile: (file: object) => void }) {
		const files = ['NOTICE', 'LICENSE', 'swagger-ui-es-bundle.js.LICENSE.txt'];
		const source = files
			.map((file) => readFileSync(`node_modules/swagger-ui-dist/${file}`, 'utf8'))
			.join('\n\n');
		this.emitFile({ type: 'asset', fileName: 'assets/api-docs.LICENSE.txt', source });
	}
};

export default defineConfig({
	plugins: [svelte(), licences],
	build: {
		assetsInlineLimit: 0,
		target: 'es2022',
		// The API's page is large and asked for by few: it has a bundle of its own.
		chunkSizeWarningLimit: 2000,
		rollupOptions: { input: ['index.html', 'api-docs.html'] }
	},
	server: { proxy: { '/api': 'http://127.0.0.1:8750' } },
	test: { include: ['src/**/*.test.ts'] }
});
