import { Paper } from './paper.ts';

const drawn = (...lines: (readonly [string, number, number, number, number])[]): Record<string, number[][]> => {
  const paper = new Paper(1000);
  for (const [owner, ...line] of lines) paper.draw(owner, line);
  const rounded = [...paper.lines()].map(([owner, found]) => [
    owner,
    found.map((line) => line.map((value) => Math.round(value * 1000) / 1000 + 0)),
  ]);
  return Object.fromEntries(rounded) as Record<string, number[][]>;
};

test('what is drawn first stays, whichever way round the second is drawn; only the rest of it is added', () => {
  expect(drawn(['a', 0, 0, 10, 0], ['b', 15, 0, 5, 0])).toEqual({ a: [[0, 0, 10, 0]], b: [[10, 0, 15, 0]] });
  expect(drawn(['a', 0, 0, 0, 10], ['b', 0, 10, 0, 0])).toEqual({ a: [[0, 0, 0, 10]] });
});

test('a line across a gap fills it, and pieces of one owner that meet are one line', () => {
  expect(drawn(['a', 0, 0, 10, 10], ['a', 10, 10, 20, 20])).toEqual({ a: [[0, 0, 20, 20]] });
  expect(drawn(['a', 0, 5, 4, 5], ['a', 6, 5, 9, 5], ['b', 0, 5, 9, 5])).toEqual({
    a: [
      [0, 5, 4, 5],
      [6, 5, 9, 5],
    ],
    b: [[4, 5, 6, 5]],
  });
});

test('lines beside one another are two, and one without a length is none', () => {
  expect(drawn(['a', 0, 0, 10, 0], ['a', 0, 1, 10, 1], ['b', 3, 3, 3, 3])).toEqual({
    a: [
      [0, 0, 10, 0],
      [0, 1, 10, 1],
    ],
  });
});
