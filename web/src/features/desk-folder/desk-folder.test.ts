import { crashed, drawingTricks, textTricks, tricksFor } from './practice.ts';
import { rowsOf, takenFrom } from './useDesk.ts';

const drawing =
  '<svg><g id="a"><rect id="r" x="1" fill="#446688"/><circle r="2" transform="scale(2)"/></g><text x="1">Ferry</text></svg>';
const does = (tricks: typeof drawingTricks, id: string, text: string): string | undefined =>
  tricks.find((t) => t.id === id)!.apply(text);

test('the practice editor does to drawings what programs do', () => {
  expect(does(drawingTricks, 'move', drawing)).toBe(
    drawing.replace('fill="#446688"/>', 'fill="#446688" transform="translate(12 8)"/>'),
  );
  expect(does(drawingTricks, 'move', '<svg><circle r="2" transform="scale(2)"/></svg>')).toBe(
    '<svg><circle r="2" transform="translate(12 8) scale(2)"/></svg>',
  );
  expect(does(drawingTricks, 'delete', drawing)).toBe(drawing.replace('<rect id="r" x="1" fill="#446688"/>', ''));
  const red = does(drawingTricks, 'recolour', drawing)!;
  expect(red).toContain('fill="#b03a2e"');
  expect(does(drawingTricks, 'recolour', red)).toContain('fill="#2e6bb0"');
  expect(does(drawingTricks, 'retype', drawing)).toContain('<text x="1">Ferry (checked)</text>');
  expect(does(drawingTricks, 'move', '<svg/>')).toBeUndefined();
});

test('and to texts', () => {
  expect(does(textTricks, 'retype', '\none\ntwo\n')).toBe('\none (checked)\ntwo\n');
  expect(does(textTricks, 'delete', 'one\ntwo\n')).toBe('one');
  expect(does(textTricks, 'add', 'one')).toBe('one\nOne more line.\n');
  expect(tricksFor('a/plan.SVG')).toBe(drawingTricks);
  expect(tricksFor('model.stl')).toBeUndefined();
  expect(crashed(new Uint8Array(10))).toHaveLength(6);
});

test('rows say where every file of the project and of the folder stands', () => {
  const file = (fileId: string, path: string, sha256: string) => ({
    fileId,
    path,
    newest: { id: `${fileId}2`, number: 2, sha256, size: 1 },
    holder: null,
  });
  const seen = (path: string, sha256: string) => ({ path, size: 1, sha256 });
  const base = (fileId: string, sha256: string) => ({ fileId, versionId: `${fileId}1`, number: 1, sha256 });
  const rows = rowsOf(
    [
      file('a', 'a.svg', 'new'),
      file('b', 'b.svg', 'same'),
      file('c', 'c.svg', 'kept'),
      file('d', 'd.svg', 'x'),
      file('e', 'e.svg', 'new'),
    ],
    [
      seen('a.svg', 'old'),
      seen('b.svg', 'same'),
      seen('c renamed.svg', 'kept'),
      seen('e.svg', 'mine'),
      seen('f.txt', 'f'),
    ],
    { bases: { 'a.svg': base('a', 'old'), 'e.svg': base('other file of that name', 'new') } },
  );
  expect(rows.map((r) => [r.path, r.status, r.perhaps?.path])).toEqual([
    ['a.svg', 'newer on the server', undefined],
    ['b.svg', 'same as newest', undefined],
    ['c renamed.svg', 'not in Ovrel', 'c.svg'],
    ['c.svg', 'not on this desk', undefined],
    ['d.svg', 'not on this desk', undefined],
    ['e.svg', 'changed on both', undefined],
    ['f.txt', 'not in Ovrel', undefined],
  ]);
});

test('what lies here as its newest version was taken from that, by whatever way it came', () => {
  const file = (fileId: string, path: string, sha256: string) => ({
    fileId,
    path,
    newest: { id: `${fileId}2`, number: 2, sha256, size: 1 },
    holder: null,
  });
  expect(
    takenFrom(
      [file('a', 'a.svg', 'x'), file('b', 'b.svg', 'y'), file('c', 'c.svg', 'z')],
      [
        { path: 'a.svg', size: 1, sha256: 'x' },
        { path: 'b.svg', size: 1, sha256: 'mine' },
      ],
    ),
  ).toEqual({ 'a.svg': { fileId: 'a', versionId: 'a2', number: 2, sha256: 'x' } });
});
