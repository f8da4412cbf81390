/**
 * Realistic edits of the real drawings beside this file (public domain, see LICENCE), a real picture (see
 * LICENCE-backdrop) and a real document (see LICENCE-drawing-by-program).
 */
import { readFileSync } from 'node:fs';

const original = (name: string): string => readFileSync(new URL(name, import.meta.url), 'latin1');

function once(text: string, find: string | RegExp, put: string): string {
  const out = text.replace(find, put);
  if (out === text) throw new Error(`the demo edit finds nothing to change: ${find}`);
  return out;
}

/** Moves, recolours and removes by position in the file: the n-th element of a name. */
function nth(text: string, element: string, n: number, edit: (tag: string) => string): string {
  let k = 0; let done = false;
  const out = text.replace(new RegExp(`<${element}\\b[^>]*?/>`, 'gs'), (tag) => {
    if (++k !== n) return tag;
    done = true;
    return edit(tag);
  });
  if (!done) throw new Error(`the demo edit finds no ${element} number ${n}`);
  return out;
}

const shifted = (dx: number, dy: number) => (tag: string): string =>
  tag.includes(' transform="') ? once(tag, ' transform="', ` transform="translate(${dx} ${dy}) `) : once(tag, /\s*\/>$/, ` transform="translate(${dx} ${dy})"/>`);
const dropped = (): string => '';

export interface RealFile {
  readonly name: string;
  readonly versions: readonly { readonly content: string; readonly note: string }[];
}

export function realFiles(): RealFile[] {
  const lighthouse = original('lighthouse.svg'); const bridge = original('drawbridge.svg'); const boat = original('sailboat-labels.svg');
  const fewer = [40, 30, 20].reduce((svg, n) => nth(svg, 'path', n, dropped), lighthouse);
  const lit = nth(fewer, 'rect', 5, (tag) => once(tag, /fill:\s*#?\w+/, 'fill:#ffe9a8'));
  // As a program that writes its own ids on every save would leave it.
  const renumbered = lit.replace(/\sid="(?:path|rect)\d+"/g, (() => {
    let n = 9000;
    return () => ` id="node${n++}"`;
  })());
  const bridgeMoved = nth(bridge, 'path', 4, shifted(18, -12));
  const boatTrimmed = [12, 11, 10].reduce((svg, n) => nth(svg, 'path', n, dropped), boat);
  return [
    { name: 'lighthouse.svg', versions: [{ content: lighthouse, note: 'As it came, for the map of the sound' }, { content: fewer, note: 'Fewer stones, for small sizes' }, { content: lit, note: 'One window lit' }, { content: renumbered, note: 'Saved from the other drawing program; nothing redrawn' }] },
    { name: 'drawbridge.svg', versions: [{ content: bridge, note: 'As it came' }, { content: bridgeMoved, note: 'One leaf up' }] },
    { name: 'backdrop.webp', versions: [{ content: original('backdrop.webp'), note: 'As it came, for the cover' }, { content: original('backdrop-cropped.webp'), note: 'Cut to the format, a little lighter' }] },
    { name: 'drawing-by-program.pdf', versions: [{ content: original('drawing-by-program.pdf'), note: 'Twelve pages that the office needs, of the guide of a library' }, { content: original('drawing-by-program-2.pdf'), note: 'One page less, and a note for the printer' }] },
    { name: 'sailboat-labels.svg', versions: [{ content: boat, note: 'As it came' }, { content: boatTrimmed, note: 'Three labels less' }] },
  ];
}
