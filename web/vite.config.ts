import { svelte } from '@sveltejs/vite-plugin-svelte';
import { defineConfig } from 'vitest/config';

export default defineConfig({
	plugins: [svelte()],
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
