/** Small helpers for writing SVG by hand. */
type Attributes = Readonly<Record<string, string | number | undefined>>;

const escape = (text: string): string => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/"/g, '&quot;');

export function el(name: string, attributes: Attributes = {}, ...children: readonly string[]): string {
  const said = Object.entries(attributes)
    .filter(([, v]) => v !== undefined)
    .map(([k, v]) => ` ${k}="${escape(String(v))}"`)
    .join('');
  return children.length
    ? `<${name}${said}>${children.join(name === 'text' ? '' : '\n')}</${name}>`
    : `<${name}${said}/>`;
}

export const text = (attributes: Attributes, words: string): string => el('text', attributes, escape(words));

/** A named layer; the label attribute is what drawing programs show. */
export const layer = (label: string, attributes: Attributes, ...children: readonly string[]): string =>
  el('g', { 'ov:groupmode': 'layer', 'ov:label': label, ...attributes }, ...children);

/** A drawing of `width` × `height` millimetres. */
export const sheet = (title: string, width: number, height: number, ...children: readonly string[]): string =>
  `<?xml version="1.0" encoding="UTF-8"?>\n${el(
    'svg',
    {
      xmlns: 'http://www.w3.org/2000/svg',
      'xmlns:ov': 'https://quillmere.example/layers',
      width: `${width}mm`,
      height: `${height}mm`,
      viewBox: `0 0 ${width} ${height}`,
    },
    el('title', {}, escape(title)),
    ...children,
  )}\n`;

/** The title block at the lower right (field names after ISO 7200). */
export function titleBlock(x: number, y: number, fields: Readonly<Record<string, string>>): string {
  const rows = Object.entries(fields);
  return layer(
    'title block',
    { 'font-family': 'sans-serif' },
    el('rect', {
      id: 'title-frame',
      x,
      y,
      width: 120,
      height: rows.length * 7 + 2,
      fill: '#ffffff',
      stroke: '#1f2933',
      'stroke-width': 0.4,
    }),
    ...rows.flatMap(([name, value], i) => [
      text({ id: `title-name-${i + 1}`, x: x + 3, y: y + 6 + i * 7, 'font-size': 3, fill: '#5b6773' }, name),
      text({ id: `title-value-${i + 1}`, x: x + 38, y: y + 6 + i * 7, 'font-size': 4, fill: '#1f2933' }, value),
    ]),
  );
}
