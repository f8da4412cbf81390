import { latinOf, type Card } from '../../model/card.ts';

const SNIFFED = 8192;
/** The binary form says so after the name of a program. */
const BINARY = /^.{8}Binary DXF\r\n\x1a\0/s;
const BINARY_HEAD = 22;

/** Comments, then the first section. */
const STARTS =
  /^(?:\s*999[ \t]*(?:\r\n|\r|\n)[^\r\n]*(?:\r\n|\r|\n))*\s*0\s*(?:\r\n|\r|\n)\s*SECTION\s*(?:\r\n|\r|\n)\s*2\s*(?:\r\n|\r|\n)/;
/** A section somewhere, where the start is damaged. */
const HOLDS = /(?:^|[\r\n])\s*0\s*[\r\n]+\s*SECTION\s*[\r\n]+\s*2\s*[\r\n]+\s*(?:HEADER|TABLES|BLOCKS|ENTITIES)\b/;

export const dxf: Card = {
  id: 'dxf',
  title: 'DXF drawing',
  extensions: ['dxf'],
  mime: 'image/vnd.dxf',
  icon: 'rulers',
  sniff(head) {
    if (BINARY.test(latinOf(head, BINARY_HEAD))) return 'certain';
    const text = new TextDecoder('windows-1252').decode(head.subarray(0, SNIFFED)).replace(/^\u00ef\u00bb\u00bf/, '');
    if (STARTS.test(text)) return 'certain';
    return HOLDS.test(text) ? 'likely' : 'no';
  },
  kinds: ['drawing', 'text', 'bytes'],
  show: 'parts',
  pages: 'sheets',
  writes: 'whole',
  load: async () => (await import('./format.ts')).format,
};
