/** What people read on the command line. */
import type { Comparison, PictureFacts } from '@ovrel/core';
import { comparisonText, pictureText } from './text.ts';

const change = (id: string, more: object = {}): Comparison['changes'][number] => ({
  id,
  kind: 'changed',
  part: { key: 'r1', kind: 'rectangle', name: 'gate', category: 'plan', page: '' },
  what: [{ aspect: 'style', property: 'fill', from: '#fff', to: '#000' }],
  boxA: null,
  boxB: null,
  size: 1,
  ...more,
});

const comparison = (changes: Comparison['changes'], more: object = {}): Comparison =>
  ({
    a: { name: 'plan-1.svg' },
    b: { name: 'plan-2.svg' },
    summary: 'One rectangle: fill #fff → #000',
    level: 'parts',
    counts: { added: 0, removed: 0, changed: changes.length, moved: 0, unchanged: 11 },
    notes: [],
    causes: [{ sentence: 'One rectangle: fill #fff → #000', changes: changes.map((c) => c.id) }],
    changes,
    ...more,
  }) as unknown as Comparison;

test('a comparison says what was done, then each part with what differs', () => {
  expect(comparisonText(comparison([change('c1')], { notes: ['Read as far as it goes.'] })).split('\n')).toEqual([
    'plan-1.svg → plan-2.svg: One rectangle: fill #fff → #000',
    'compared as parts; added 0, removed 0, changed 1, moved 0, unchanged 11',
    'note: Read as far as it goes.',
    'causes:',
    '  One rectangle: fill #fff → #000  [1]',
    'changes:',
    '~ rectangle gate  [plan]',
    '    fill: #fff → #000',
  ]);
});

test('each kind of change has its sign; a part without a name is called by its key', () => {
  const kinds = ['added', 'removed', 'changed', 'moved'] as const;
  const nameless = { part: { key: '408F', kind: 'line', name: 'line', category: '', page: '' }, what: [] };
  const text = comparisonText(comparison(kinds.map((kind, i) => change(`c${i}`, { kind, ...nameless }))));
  expect(text.split('\n').slice(-4)).toEqual(['+ line 408F', '− line 408F', '~ line 408F', '→ line 408F']);
});

test('of very many changes the first are listed, and the rest counted', () => {
  const text = comparisonText(comparison(Array.from({ length: 1201 }, (_, i) => change(`c${i}`, { what: [] }))));
  expect(text.match(/^~ /gm)).toHaveLength(200);
  expect(text.split('\n').at(-1)).toBe('… and 1,001 more changes; --json lists all.');
});

test('a picture says its size, colours and profile, and its layers as they hang together', () => {
  const facts = {
    format: 'ora',
    width: 800,
    height: 600,
    depth: 8,
    colours: 'RGB',
    transparent: true,
    density: 300,
    profile: null,
    notes: ['Only the first frame was read.'],
    layered: {
      layers: [
        { name: 'Titles', kind: 'group', hidden: false, opacity: 1, blend: 'normal', group: -1 },
        { name: 'Season', kind: 'layer', hidden: true, opacity: 0.5, blend: 'multiply', group: 0 },
        { name: 'Sea', kind: 'layer', hidden: false, opacity: 1, blend: 'normal', group: -1 },
      ],
    },
  } as unknown as PictureFacts & { format: string };
  expect(pictureText('poster.ora', 1234, facts).split('\n')).toEqual([
    'poster.ora: ora, 1,234 bytes',
    '800 × 600 px, 8 bits a channel, RGB, with transparency',
    '300 pixels an inch',
    'colour profile: none',
    'layers, from the top:',
    expect.stringMatching(/^ *Titles, group$/),
    expect.stringMatching(/^ +Season, hidden, 50 %, multiply$/),
    expect.stringMatching(/^ *Sea$/),
    'note: Only the first frame was read.',
  ]);
});
