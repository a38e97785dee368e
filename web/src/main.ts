import '@fontsource-variable/atkinson-hyperlegible-mono/wght.css';
import '@fontsource-variable/atkinson-hyperlegible-next/wght.css';
import { mount } from 'svelte';

import App from './App.svelte';
import { keepFocus } from './lib/shell/focus';
import { keepPresses } from './lib/shell/press';
import './tokens.css';

const target = document.getElementById('app');
if (target) mount(App, { target });
keepFocus();
keepPresses();
