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
