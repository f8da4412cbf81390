import { latinOf, type Card } from '../../model/card.ts';
import { hasExtension } from '../shared/plain-text.ts';

/** Names of members, which stand uncompressed in a container (ISO/IEC 29500-2). */
const MEMBER = /\bxl\/[\w/.]+/;

export const xlsx: Card = {
  id: 'xlsx',
  title: 'spreadsheet',
  extensions: ['xlsx', 'xlsm'],
  mime: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  icon: 'table',
  sniff(head, name) {
    if (latinOf(head, 2) !== 'PK') return 'no';
    const text = latinOf(head);
    if (MEMBER.test(text)) return 'certain';
    return /\[Content_Types\]\.xml/.test(text) && hasExtension(name, xlsx.extensions) ? 'certain' : 'no';
  },
  kinds: ['table', 'bytes'],
  show: 'cells',
  pages: 'sheets',
  called: { category: 'column', page: 'sheet' },
  packed: true,
  load: async () => (await import('./format.ts')).format,
};
