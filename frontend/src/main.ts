import { mount } from 'svelte';
import { ofToday } from '$lib/navigation';
import App from './App.svelte';
import './app.css';

// Addresses that were noted down before they lost their hash.
const today = ofToday(location.hash);
if (today) history.replaceState(null, '', today);

mount(App, { target: document.getElementById('app')! });
