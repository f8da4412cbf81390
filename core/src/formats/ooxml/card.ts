import { latinOf, type Card } from '../../model/card.ts';

/** Names of members, which stand uncompressed in a container (ISO/IEC 29500-2). */
const MEMBER = /\[Content_Types\]\.xml|\b(?:xl|word|ppt)\/[\w/.]+/;

export const ooxml: Card = {
  id: 'ooxml',
  title: 'office document',
  extensions: ['docx', 'docm', 'pptx', 'pptm'],
  mime: 'application/vnd.openxmlformats-officedocument',
  icon: 'file-earmark-richtext',
  sniff: (head) => (latinOf(head, 2) === 'PK' && MEMBER.test(latinOf(head)) ? 'certain' : 'no'),
  kinds: ['bytes'],
  show: 'nothing',
  packed: true,
  load: async () => (await import('./format.ts')).format,
};
