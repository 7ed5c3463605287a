import { cleanup, configure } from '@testing-library/svelte';
import { afterEach } from 'vitest';

export { fireEvent, render, screen, within } from '@testing-library/svelte';
configure({ getElementError: (message) => new Error(message ?? '') });
export { default as userEvent } from '@testing-library/user-event';

afterEach(() => cleanup());

/** The text that a person reads in an element, with every run of spaces as one. */
export function textOf(element: Element | null): string {
  return (element?.textContent ?? '').replace(/\s+/g, ' ').trim();
}
