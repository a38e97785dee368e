import { svelte } from '@sveltejs/vite-plugin-svelte';
import { defineConfig } from 'vitest/config';

export default defineConfig({
	plugins: [svelte()],
	build: { assetsInlineLimit: 0, target: 'es2022' },
	server: { proxy: { '/api': 'http://127.0.0.1:8750' } },
	test: { include: ['src/**/*.test.ts'] }
});
