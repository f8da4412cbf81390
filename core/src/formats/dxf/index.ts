import type { Format } from '../../model/format.ts';
import { isBinary } from './groups.ts';
import { readDxf } from './read.ts';

export const dxf: Format = {
  id: 'dxf',
  title: 'DXF drawing',
  extensions: ['dxf'],
  mime: 'image/vnd.dxf',
  sniff(head) {
    if (isBinary(head)) return 'certain';
    const text = new TextDecoder('windows-1252').decode(head.subarray(0, 8192)).replace(/^\u00ef\u00bb\u00bf/, '');
    if (
      /^(?:\s*999[ \t]*(?:\r\n|\r|\n)[^\r\n]*(?:\r\n|\r|\n))*\s*0\s*(?:\r\n|\r|\n)\s*SECTION\s*(?:\r\n|\r|\n)\s*2\s*(?:\r\n|\r|\n)/.test(
        text,
      )
    )
      return 'certain';
    return /(?:^|[\r\n])\s*0\s*[\r\n]+\s*SECTION\s*[\r\n]+\s*2\s*[\r\n]+\s*(?:HEADER|TABLES|BLOCKS|ENTITIES)\b/.test(
      text,
    )
      ? 'likely'
      : 'no';
  },
  read: readDxf,
};
