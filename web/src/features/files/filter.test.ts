import type { Change } from '@ovrel/core/contract';
import type { Folder } from '../../contract/api.ts';
import { folderPaths } from '../projects/folders.ts';
import { emptyFilter, passes, tally } from './filter.ts';

const change = (kind: Change['kind'], a: string | undefined, b: string | undefined, aspect?: Change['what'][number]['aspect']): Change => {
  const part = (category: string) => ({ key: null, kind: 'path', name: '', category, page: '' });
  return { id: 'c', kind, part: part(b ?? a ?? ''), ...(a === undefined ? {} : { partA: part(a) }), ...(b === undefined ? {} : { partB: part(b) }), what: aspect ? [{ aspect, from: '', to: '' }] : [], boxA: null, boxB: null, size: 0 };
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

test('counts come with the most frequent first', () => expect(tally(['b', 'a', 'b', 'c', 'a', 'b'])).toEqual([['b', 3], ['a', 2], ['c', 1]]));

test('folders are named in full, in order, and circles do not hang', () => {
  const folder = (id: string, name: string, parentId: string | null): Folder => ({ id, name, parentId, projectId: 'p' });
  expect(folderPaths([folder('2', 'Details', '1'), folder('1', 'Drawings', null), folder('3', 'Archive', null)]).map((f) => f.path)).toEqual(['Archive', 'Drawings', 'Drawings › Details']);
  expect(folderPaths([folder('1', 'a', '2'), folder('2', 'b', '1')])).toHaveLength(2);
});
