import { figureSpec } from '$lib/units';

/** A setting's name in a sentence, with the controller where it is not the first one's. */
export function nameOf(path: string): string {
  const title = figureSpec(path).title;
  const further = /^settings_apart\.(\d+)\./.exec(path);
  return (
    title.charAt(0).toLowerCase() +
    title.slice(1) +
    (further ? ` of controller ${Number(further[1]) + 2}` : '')
  );
}

/** What each controller has, once where all have the same. */
export function ofEach(texts: string[]): string {
  return new Set(texts).size < 2 ? (texts[0] ?? '') : texts.map((t, i) => `${i + 1}: ${t}`).join(', ');
}
