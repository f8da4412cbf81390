/** What the practice editor does to a file: what drawing programs do, well and badly. Pure: text in, text out. */
export interface Trick {
  readonly id: string;
  readonly says: string;
  /** Undefined where the file has nothing to do this to. */
  readonly apply: (text: string) => string | undefined;
}

/** Shapes that can be moved or removed by themselves: an element without children. */
const simple = /<(rect|circle|ellipse|line|path|polygon|polyline|image|use)\b[^<>]*\/>/g;

const once = (text: string, pattern: RegExp, change: (found: string) => string): string | undefined => {
  let done = false;
  const out = text.replace(pattern, (found: string) => {
    if (done) return found;
    const next = change(found);
    done = next !== found;
    return next;
  });
  return done && out !== text ? out : undefined;
};

const moved = (tag: string): string => {
  const old = /\stransform="([^"]*)"/.exec(tag);
  return old
    ? tag.replace(old[0], ` transform="translate(12 8) ${old[1] ?? ''}"`)
    : tag.replace(/\s*\/>$/, ' transform="translate(12 8)"/>');
};

export const drawingTricks: readonly Trick[] = [
  { id: 'move', says: 'Move a shape', apply: (text) => once(text, simple, moved) },
  { id: 'delete', says: 'Delete a shape', apply: (text) => once(text, simple, () => '') },
  {
    id: 'recolour',
    says: 'Recolour',
    apply: (text) =>
      once(text, /(fill|stroke)="#[0-9a-fA-F]{3,8}"/g, (found) =>
        found.replace(/#[0-9a-fA-F]{3,8}/, (c) => (c.toLowerCase() === '#b03a2e' ? '#2e6bb0' : '#b03a2e')),
      ),
  },
  {
    id: 'retype',
    says: 'Retype a text',
    apply: (text) =>
      once(text, />[^<>\s][^<>]*<\/(?:text|tspan)>/g, (found) =>
        found.replace(/>([^<>]*)</, (_, words: string) => `>${words} (checked)<`),
      ),
  },
];

export const textTricks: readonly Trick[] = [
  {
    id: 'retype',
    says: 'Retype a line',
    apply: (text) => once(text, /^[^\n]*\S[^\n]*$/gm, (line) => `${line} (checked)`),
  },
  {
    id: 'delete',
    says: 'Delete the last line',
    apply: (text) => (text.trim() ? text.replace(/\n?[^\n]*\n?$/, '') : undefined),
  },
  { id: 'add', says: 'Add a line', apply: (text) => `${text.replace(/\n?$/, '\n')}One more line.\n` },
];

/** As a program leaves a file that crashes in the middle of saving. */
export const crashed = (bytes: Uint8Array): Uint8Array => bytes.slice(0, Math.floor(bytes.length * 0.6));

export const tricksFor = (path: string): readonly Trick[] | undefined => {
  if (/\.svg$/i.test(path)) return drawingTricks;
  if (/\.(?:txt|md|csv|html?)$/i.test(path)) return textTricks;
  return undefined;
};
