import type { Cause, Change } from '@ovrel/core/contract';
import type { Folder } from '../../contract/api.ts';
import { folderPaths } from '../projects/folders.ts';
import { ignoreNothing, type Ignore } from '../../contract/preferences.ts';
import { disregard, emptyFilter, passes, tally } from './filter.ts';

const change = (
  kind: Change['kind'],
  a: string | undefined,
  b: string | undefined,
  aspect?: Change['what'][number]['aspect'],
): Change => {
  const part = (category: string) => ({ key: null, kind: 'path', name: '', category, page: '' });
  return {
    id: 'c',
    kind,
    part: part(b ?? a ?? ''),
    ...(a === undefined ? {} : { partA: part(a) }),
    ...(b === undefined ? {} : { partB: part(b) }),
    what: aspect ? [{ aspect, from: '', to: '' }] : [],
    boxA: null,
    boxB: null,
    size: 0,
  };
};

test('a change passes by kind, by the layer on either side, and by what differs', () => {
  expect(passes(change('added', undefined, 'Deck'), emptyFilter)).toBe(true);
  expect(passes(change('added', undefined, 'Deck'), { ...emptyFilter, without: new Set(['added']) })).toBe(false);
  const relayered = change('changed', 'Deck', 'Piles', 'layer');
  for (const category of ['Deck', 'Piles']) expect(passes(relayered, { ...emptyFilter, category })).toBe(true);
  expect(passes(relayered, { ...emptyFilter, category: 'Signs' })).toBe(false);
  expect(passes(relayered, { ...emptyFilter, aspect: 'style' })).toBe(false);
  expect(passes(relayered, { ...emptyFilter, aspect: 'layer' })).toBe(true);
});

test('counts come with the most frequent first', () =>
  expect(tally(['b', 'a', 'b', 'c', 'a', 'b'])).toEqual([
    ['b', 3],
    ['a', 2],
    ['c', 1],
  ]));

test('folders are named in full, in order, and circles do not hang', () => {
  const folder = (id: string, name: string, parentId: string | null): Folder => ({
    id,
    name,
    parentId,
    projectId: 'p',
  });
  expect(
    folderPaths([folder('2', 'Details', '1'), folder('1', 'Drawings', null), folder('3', 'Archive', null)]).map(
      (f) => f.path,
    ),
  ).toEqual(['Archive', 'Drawings', 'Drawings › Details']);
  expect(folderPaths([folder('1', 'a', '2'), folder('2', 'b', '1')])).toHaveLength(2);
});

describe('what a person ignores', () => {
  const part = { key: null, kind: 'line', name: '', category: '', page: '' };
  const made = (id: string, size: number, ...aspects: Change['what'][number]['aspect'][]): Change => ({
    id,
    kind: aspects.every((a) => a === 'placement') ? 'moved' : 'changed',
    part,
    what: aspects.map((aspect) => ({ aspect, from: 'a', to: 'b' })),
    boxA: null,
    boxB: null,
    size,
  });
  const cause = (id: string, kind: Cause['kind'], changes: string[]): Cause => ({
    id,
    kind,
    code: 'look-changed',
    values: {},
    sentence: '',
    weight: 1,
    parts: changes.length,
    changes,
  });
  const all = {
    changes: [
      made('c1', 0, 'style'),
      made('c2', 5, 'placement', 'style'),
      made('c3', 0.01, 'placement'),
      made('c4', 0, 'formatting'),
    ],
    causes: [
      cause('k1', 'motion', ['c2', 'c3']),
      cause('k2', 'style', ['c1', 'c2']),
      cause('k3', 'order', []),
      cause('k4', 'renumbered', []),
      cause('k5', 'formatting', ['c4']),
    ],
  };
  const left = (ignore: Partial<Ignore>): string => {
    const { changes, causes, ignored } = disregard(all, { ...ignoreNothing, ...ignore });
    return `${changes.map((c) => `${c.id}:${c.kind}`).join(' ')} | ${causes.map((k) => `${k.id}:${k.changes.length}`).join(' ')} | ${ignored}`;
  };

  test.each([
    [{}, 'c1:changed c2:changed c3:moved c4:changed | k1:2 k2:2 k3:0 k4:0 k5:1 | 0'],
    [{ style: true }, 'c2:moved c3:moved c4:changed | k1:2 k3:0 k4:0 k5:1 | 1'],
    [{ formatting: true }, 'c1:changed c2:changed c3:moved | k1:2 k2:2 k3:0 k4:0 | 1'],
    [{ order: true, numbering: true }, 'c1:changed c2:changed c3:moved c4:changed | k1:2 k2:2 k5:1 | 0'],
    [{ below: 1 }, 'c1:changed c2:changed c4:changed | k1:1 k2:2 k3:0 k4:0 k5:1 | 1'],
  ])('%j', (ignore, says) => expect(left(ignore)).toBe(says));

  test('block, page, size and area limit the list', () => {
    const bolt: Change = {
      ...made('c9', 4, 'placement'),
      part: { ...part, kind: 'placement', name: 'bolt', page: 'Model' },
      boxA: [0, 0, 1, 1],
      boxB: [10, 0, 11, 1],
    };
    for (const [filter, yes] of [
      [{ block: 'bolt' }, true],
      [{ block: 'cleat' }, false],
      [{ page: 'Sheet' }, false],
      [{ least: 4 }, true],
      [{ least: 5 }, false],
      [{ area: [9, 0, 20, 20] }, true],
      [{ area: [3, 0, 8, 20] }, false],
    ] as const) {
      expect(passes(bolt, { ...emptyFilter, ...filter })).toBe(yes);
    }
  });
});
