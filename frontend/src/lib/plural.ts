const english = (count: number) => (count === 1 ? 0 : 1);

/** A text by its count, which stands where `#` is: `plural(n, ['# ride', '# rides'])`. Another language brings its own forms and rule. */
export function plural(count: number, forms: readonly string[], rule = english): string {
  return (forms[rule(count)] ?? forms.at(-1)!).replaceAll('#', String(count));
}
