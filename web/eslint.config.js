import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import svelte from 'eslint-plugin-svelte';
import ts from 'typescript-eslint';

import svelteConfig from './svelte.config.js';

export default ts.config(
	{ ignores: ['dist', '.svelte-check', 'src/lib/api/schema.d.ts'] },
	js.configs.recommended,
	...ts.configs.recommended,
	...svelte.configs.recommended,
	prettier,
	...svelte.configs.prettier,
	{ rules: { 'no-undef': 'off' } },
	{
		files: ['**/*.svelte', '**/*.svelte.ts'],
		languageOptions: { parserOptions: { parser: ts.parser, svelteConfig } },
		// The router below is our own; addresses are plain strings.
		rules: { 'svelte/no-navigation-without-resolve': 'off' }
	}
);
