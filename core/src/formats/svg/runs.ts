/** What runs of a text look like, where it is otherwise than the text as a whole. */
import type { Lettering } from '../../model/design.ts';
import type { XmlElement } from '../xml/parse.ts';
import { lengthOf } from './length.ts';
import { rounded, type Style } from './style.ts';
import { fontSizeOf } from './text.ts';

type Props = Readonly<Record<string, string | number>>;

interface Look {
  readonly styleOf: (element: XmlElement, outer: Style) => Style;
  readonly propsOf: (style: Style) => Props;
}

/** Properties of a text that tell of its runs and letters; lengths in its own font size, so that scaling keeps them. */
export function runProps(e: XmlElement, style: Style, lettering: Lettering, look: Look): Record<string, string> {
  const props: Record<string, string> = {};
  const size = lettering.size || 1;
  const styled = styledRuns(e, style, look);
  if (styled.length > 0) props['runs'] = styled.join('; ');
  const [first, ...later] = lettering.runs;
  if (first && later.length > 0)
    props['run-places'] = later.map(({ x, y }) => `(${ems(x - first.x, size)}, ${ems(y - first.y, size)})`).join(' ');
  const length = e.attributes['textLength'];
  if (length !== undefined) props['textLength'] = ems(lengthOf(length, 0), size);
  if (e.attributes['rotate'] !== undefined) props['rotate'] = numbersOf(e.attributes['rotate'], 1);
  for (const name of ['dx', 'dy']) {
    const shifts = (e.attributes[name] ?? '')
      .trim()
      .split(/[\s,]+/)
      .slice(1);
    if (shifts.length > 0) props[name] = shifts.map((shift) => ems(lengthOf(shift, 0), size)).join(' ');
  }
  return props;
}

const ems = (length: number, size: number): string => `${rounded(length / size)} em`;

const numbersOf = (text: string, unit: number): string =>
  text
    .trim()
    .split(/[\s,]+/)
    .map((part) => String(rounded(Number(part) / unit)))
    .join(' ');

/** “way: fill #ff0000”: each run that looks otherwise, with how. */
function styledRuns(e: XmlElement, style: Style, { styleOf, propsOf }: Look): string[] {
  const plain = seen(style, propsOf);
  const found: string[] = [];
  const walk = (element: XmlElement, outer: Style): void => {
    for (const child of element.children) {
      if (typeof child !== 'string') {
        if (child.name === 'tspan' || child.name === 'a' || child.name === 'textPath')
          walk(child, styleOf(child, outer));
        continue;
      }
      const words = child.replace(/\s+/g, ' ').trim();
      if (words === '' || outer === style) continue;
      const own = seen(outer, propsOf);
      const names = [...new Set([...Object.keys(plain), ...Object.keys(own)])].filter((n) => plain[n] !== own[n]);
      if (names.length > 0) found.push(`${words}: ${names.map((n) => `${n} ${own[n] ?? 'plain'}`).join(', ')}`);
    }
  };
  walk(e, style);
  return found;
}

/** Sizes of runs are told in that of the text. */
const seen = (style: Style, propsOf: Look['propsOf']): Props => ({ ...propsOf(style), size: fontSizeOf(style) });
