import { latinOf, type Card } from '../../model/card.ts';
import { hasExtension } from '../shared/plain-text.ts';

/** Names of members, which stand uncompressed in a container (ISO/IEC 29500-2). */
const MEMBER = /\bxl\/[\w/.]+/;

/** The beginning of a container for locked workbooks and older files (MS-CFB, 2.2). */
export const LOCKED = '\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1';

export const xlsx: Card = {
  id: 'xlsx',
  title: 'spreadsheet',
  extensions: ['xlsx', 'xlsm'],
  mime: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  icon: 'table',
  sniff(head, name) {
    const isCalledSo = hasExtension(name, xlsx.extensions);
    // What is locked lies in another kind of container.
    if (latinOf(head, LOCKED.length) === LOCKED) return isCalledSo ? 'certain' : 'no';
    if (latinOf(head, 2) !== 'PK') return 'no';
    const text = latinOf(head);
    if (MEMBER.test(text)) return 'certain';
    return /\[Content_Types\]\.xml/.test(text) && isCalledSo ? 'certain' : 'no';
  },
  kinds: ['table', 'bytes'],
  show: 'cells',
  pages: 'sheets',
  called: { category: 'column', page: 'sheet' },
  packed: true,
  load: async () => (await import('./format.ts')).format,
};
