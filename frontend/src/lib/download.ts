/** Hands a text to the browser as a file to keep. */
export function download(content: string, type: string, name: string): void {
  const address = URL.createObjectURL(new Blob([content], { type }));
  Object.assign(document.createElement('a'), { href: address, download: name }).click();
  URL.revokeObjectURL(address);
}

/** A picture of the page as a file of its own: colours stand in variables of the page, and are written out. */
export function svgText(svg: SVGSVGElement, width: number, height: number, unit = ''): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', `${width}${unit}`);
  copy.setAttribute('height', `${height}${unit}`);
  copy.setAttribute('font-family', 'sans-serif');
  copy.querySelector('[data-pointer]')?.remove();
  const style = getComputedStyle(document.documentElement);
  return new XMLSerializer()
    .serializeToString(copy)
    .replace(/var\((--[\w-]+)\)/g, (_, variable: string) => style.getPropertyValue(variable).trim());
}
