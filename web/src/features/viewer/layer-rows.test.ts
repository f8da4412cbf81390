import type { Change, PictureLayerEntry } from '@ovrel/core/contract';
import { layerRows } from './layer-rows.ts';

const entry = (name: string, more: Partial<PictureLayerEntry> = {}): PictureLayerEntry => ({
  name,
  kind: 'layer',
  group: -1,
  hidden: false,
  opacity: 1,
  blend: 'normal',
  box: [0, 0, 9, 9],
  ...more,
});
const place = { part: { kind: 'place', category: 'sea' } } as Change;

test('one version: from the top, indented by group, with what is particular', () => {
  const rows = layerRows(
    {
      a: [],
      b: [
        entry('lettering', { kind: 'group' }),
        entry('title', { group: 0, opacity: 0.6, blend: 'multiply' }),
        entry('paper', { hidden: true }),
      ],
      pairs: [],
    },
    [],
  );
  expect(rows.map((r) => [r.name, r.depth, r.says])).toEqual([
    ['lettering', 0, ''],
    ['title', 1, '60 %, multiply'],
    ['paper', 0, 'hidden'],
  ]);
});

test('two versions: what is only in A stands where it stood, and each says what happened to it', () => {
  const gone = { kind: 'removed', part: { kind: 'layer' }, partA: { index: 1 } } as Change;
  const rows = layerRows(
    {
      a: [entry('title'), entry('gulls'), entry('sea')],
      b: [entry('title'), entry('sea'), entry('paper')],
      pairs: [0, -1, 1],
    },
    [gone, place],
  );
  expect(rows.map((r) => [r.name, r.a, r.b, r.sign])).toEqual([
    ['title', 0, 0, undefined],
    ['gulls', 1, undefined, 'removed'],
    ['sea', 2, 1, 'changed'],
    ['paper', undefined, 2, undefined],
  ]);
});
