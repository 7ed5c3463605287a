import { configure } from '@testing-library/svelte';

export { fireEvent, render, screen, within } from '@testing-library/svelte';
configure({ getElementError: (message) => new Error(message ?? '') });
export { default as userEvent } from '@testing-library/user-event';

/** The text that a person reads in an element, with every run of spaces as one. */
export function textOf(element: Element | null): string {
  return (element?.textContent ?? '').replace(/\s+/g, ' ').trim();
}
