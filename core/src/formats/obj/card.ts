import { latinOf, type Card } from '../../model/card.ts';

const SNIFFED = 4096;
const STATEMENT = /^\s*(?:v|vt|vn|vp|f|l|p|o|g|s|mg|mtllib|usemtl|cstype|deg|curv|surf|parm|end)\s/;

export const obj: Card = {
  id: 'obj',
  title: 'OBJ model',
  extensions: ['obj'],
  mime: 'model/obj',
  icon: 'box',
  sniff(head) {
    const lines = latinOf(head, SNIFFED)
      .split(/\r\n|\r|\n/)
      .slice(0, -1);
    const said = lines.filter((line) => line.trim() && !line.startsWith('#'));
    return said.length && said.every((line) => STATEMENT.test(line)) ? 'likely' : 'no';
  },
  kinds: ['solid', 'text', 'bytes'],
  show: 'space',
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};
