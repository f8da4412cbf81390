/** Texts of DXF files: code pages, character escapes, and the formatting codes of single- and multi-line text. */

/** The label of a decoder for `$DWGCODEPAGE`; files from AC1021 (2007) on are UTF-8. */
export function encodingOf(version: string, codePage: string): string {
  if (version >= 'AC1021') return 'utf-8';
  const page = /(\d{3,5})/.exec(codePage)?.[1] ?? '1252';
  const known: Readonly<Record<string, string>> = {
    874: 'windows-874',
    932: 'shift_jis',
    936: 'gbk',
    949: 'euc-kr',
    950: 'big5',
    866: 'ibm866',
    65001: 'utf-8',
    8859: `iso-8859-${/8859[-_](\d+)/.exec(codePage)?.[1] ?? '1'}`,
  };
  return known[page] ?? (/^125[0-8]$/.test(page) ? `windows-${page}` : 'windows-1252');
}

/** Character escapes of both kinds of text. */
export const unescape = (text: string): string =>
  text
    .replace(/\\U\+([0-9a-f]{4})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)))
    .replace(/\^([ JIM])/g, (_, c: string) => {
      if (c === 'J') return '\n';
      if (c === 'I') return '\t';
      if (c === 'M') return '';
      return '^';
    });

/**
 * `%%` codes of single-line text: degree, plus-minus, diameter, characters by number; switches of underline and
 * overline are left out.
 */
export const plainText = (text: string): string =>
  unescape(text).replace(
    /%%(?:([dD])|([pP])|([cC])|[uUoOkK]|%|(\d{3}))/g,
    (all: string, d?: string, p?: string, c?: string, n?: string) => {
      if (d) return '°';
      if (p) return '±';
      if (c) return '⌀';
      if (n) return String.fromCharCode(Number(n));
      if (all === '%%%') return '%';
      return '';
    },
  );

export interface Paragraphs {
  readonly lines: readonly string[];
  /** Formatting that a person can see: "bold", "red" …; for comparing, in one spelling. */
  readonly formatting: string;
}

/** The words of a multi-line text without its codes, a line each. */
export function paragraphs(source: string): Paragraphs {
  const text = unescape(source);
  let out = '';
  const formatting: string[] = [];
  for (let i = 0; i < text.length; i++) {
    const c = text[i] as string;
    if (c === '{' || c === '}') continue;
    if (c !== '\\') {
      out += c;
      continue;
    }
    const code = text[++i] ?? '';
    if (code === 'P' || code === 'N' || code === 'X') out += '\n';
    else if (code === '~') out += '\u00a0';
    else if ('\\{}'.includes(code)) out += code;
    else if ('LlOoKk'.includes(code)) formatting.push(code);
    else if (code === 'S') {
      // A stacked fraction: "1^2;", "1/2;" or "1#2;".
      const end = stop(text, i + 1);
      out += text
        .slice(i + 1, end)
        .replace(/\\(.)/g, '$1')
        .replace(/[\^#]\s*/, '/')
        .replace(/\/$/, '');
      i = end;
    } else if ('ACcFfHhQqTtWwpMm'.includes(code)) {
      const end = stop(text, i + 1);
      formatting.push(code + text.slice(i + 1, end));
      i = end;
    } else out += code;
  }
  return {
    lines: plainText(out)
      .split('\n')
      .map((l) => l.replace(/\s+$/, '')),
    formatting: formatting.join(' '),
  };
}

/** The `;` that ends a code; a code without one takes nothing. */
function stop(text: string, from: number): number {
  const end = text.indexOf(';', from);
  return end < 0 || end - from > 200 ? from - 1 : end;
}
