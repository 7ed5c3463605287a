import { mount } from 'svelte';
import { currentAddress } from '$lib/navigation';
import App from './App.svelte';
import './app.css';

// Addresses that were noted down before pages had their names of today.
const current = currentAddress(location);
if (current) history.replaceState(null, '', current);

mount(App, { target: document.getElementById('app')! });
