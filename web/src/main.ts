import '@fontsource-variable/instrument-sans/wght.css';
import './app.css';
import { mount } from 'svelte';
import App from './App.svelte';

const target = document.getElementById('app');
if (!target) throw new Error('The page has no place for the application.');
mount(App, { target });
