import { DxfWriter } from '../../formats/dxf/write.ts';
import { designOf } from '../../testing.ts';
import { kinds } from '../registry.ts';
import { compareLines } from '../text/compare.ts';
import { compareDesigns } from './compare.ts';
import { stepsOf } from './steps.ts';
import type { Design } from '../../model/design.ts';

type Post = readonly [number, number, string?];

/** Posts as squares at x and y, of a size of their own each; handles begin at `handle`. */
function posts(handle: number, all: Record<string, Post>): Design {
  const d = new DxfWriter({ firstHandle: handle });
  for (const [name, [x, y, layer]] of Object.entries(all)) {
    const s = 40 + name.charCodeAt(0) * 3;
    d.polyline(
      [
        [x, y],
        [x + s, y],
        [x + s, y + s],
        [x, y + s / 2],
      ],
      true,
      { layer: layer ?? 'posts' },
    );
  }
  return designOf(d.finish(), 'posts.dxf');
}

const drawn = (a: Design, b: Design) => kinds.drawing.step!(a, b, {});

const first = { a: [0, 0], b: [1000, 0], c: [2000, 0], d: [3000, 0] } satisfies Record<string, Post>;

test('every change is told from the steps that touched its part, though each program numbers anew', () => {
  const chain = [
    posts(0x100, first),
    posts(0x900, { ...first, b: [1000, 250] }),
    posts(0x500, { ...first, b: [1000, 250], e: [4000, 0] }),
    posts(0x700, { a: [0, 0], b: [1000, 600], d: [3000, 0], e: [4000, 100] }),
  ];
  const whole = compareDesigns(chain[0] as Design, chain[3] as Design);
  const steps = stepsOf(whole.parts, chain, drawn);
  const of = (kind: string): number[][] =>
    whole.changes.flatMap((c, n) => (c.kind === kind ? [steps[n] as number[]] : []));
  expect(of('moved')).toEqual([[1, 3]]);
  expect(of('added')).toEqual([[2, 3]]);
  expect(of('removed')).toEqual([[3]]);
});

test('what was done and undone again is no change, and has no steps', () => {
  const chain = [posts(0x100, first), posts(0x100, { ...first, c: [2000, 700] }), posts(0x100, first)];
  expect(stepsOf(compareDesigns(chain[0] as Design, chain[2] as Design).parts, chain, drawn)).toEqual([]);
});

test('lines of a text, too', () => {
  const text = (s: string): Design => designOf(s, 'method.txt');
  const chain = [text('one\ntwo\nthree\n'), text('one\n2\nthree\n'), text('one\n2\nthree\nfour\n')];
  const whole = compareLines(chain[0] as Design, chain[2] as Design);
  const steps = stepsOf(whole.parts, chain, (a, b) => kinds.text.step!(a, b, {}));
  expect(whole.changes.map((c, n) => [c.part.name, steps[n]])).toEqual(expect.arrayContaining([['four', [2]]]));
  expect(steps.every((s) => s.length === 1)).toBe(true);
});
