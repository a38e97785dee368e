import { createHash } from 'node:crypto';
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

// What a phone keeps for where the network does not reach: all but the API's own page.
const offline = {
	name: 'kept-on-a-phone',
	generateBundle(this: { emitFile: (file: object) => void }, _: unknown, bundle: object) {
		const kept = Object.keys(bundle).filter(
			(name) => /\.(js|css|woff2)$/.test(name) && !name.includes('api-docs')
		);
		const assets = kept.sort().map((name) => `/${name}`);
		const version = createHash('sha256').update(assets.join()).digest('hex').slice(0, 12);
		const source = readFileSync('src/sw.js', 'utf8')
			.replace('__VERSION__', `pages-${version}`)
			.replace('__ASSETS__', JSON.stringify(assets));
		this.emitFile({ type: 'asset', fileName: 'sw.js', source });
	}
};

export default defineConfig({
	plugins: [svelte(), licences, offline],
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
