import { boxAround, centreX, centreY, diagonal, gap, unite } from './box.ts';
import {
  angleOf,
  applyX,
  applyY,
  identity,
  inverse,
  multiply,
  parseTransform,
  scaleOf,
  shift,
  type Matrix,
} from './matrix.ts';

const near = (m: readonly number[] | undefined, want: readonly number[]): void =>
  want.forEach((v, k) => expect(m?.[k]).toBeCloseTo(v, 9));
const at = (m: Matrix, x: number, y: number): readonly number[] => [applyX(m, x, y), applyY(m, x, y)];

describe('maps', () => {
  test('the second factor is applied first', () => {
    const turn = parseTransform('rotate(90)');
    near(at(multiply(shift(10, 0), turn), 1, 0), [10, 1]);
    near(at(multiply(turn, shift(10, 0)), 1, 0), [0, 11]);
    expect(multiply(identity, turn)).toBe(turn);
    expect(multiply(turn, identity)).toBe(turn);
  });

  test('there and back is where it began; what flattens has no way back', () => {
    const m = parseTransform('translate(30 -4) rotate(33) scale(2 0.5) skewX(12)');
    near(multiply(inverse(m) as Matrix, m), identity);
    near(multiply(m, inverse(m) as Matrix), identity);
    expect(inverse([1, 2, 2, 4, 5, 6])).toBeUndefined();
    expect(inverse([NaN, 0, 0, 1, 0, 0])).toBeUndefined();
  });

  test('growth and turn', () => {
    const m = parseTransform('rotate(-30) scale(3)');
    expect(scaleOf(m)).toBeCloseTo(3, 9);
    expect(angleOf(m)).toBeCloseTo(-30, 9);
    expect(scaleOf(parseTransform('scale(-2 8)'))).toBeCloseTo(4, 9);
    expect(angleOf(parseTransform('rotate(180)'))).toBeCloseTo(180, 9);
  });
});

describe('transform lists of SVG', () => {
  test.each<[string, readonly number[]]>([
    ['translate(7)', [1, 0, 0, 1, 7, 0]],
    ['translate(7,-2)', [1, 0, 0, 1, 7, -2]],
    ['scale(3)', [3, 0, 0, 3, 0, 0]],
    ['scale(3 2)', [3, 0, 0, 2, 0, 0]],
    ['matrix(1 2 3 4 5 6)', [1, 2, 3, 4, 5, 6]],
    ['rotate(90 10 20)', [0, 1, -1, 0, 30, 10]],
    ['skewX(45)', [1, 0, 1, 1, 0, 0]],
    ['skewY(45)', [1, 1, 0, 1, 0, 0]],
    ['translate(.5-.5)', [1, 0, 0, 1, 0.5, -0.5]],
    ['translate(1e1,2E-1)', [1, 0, 0, 1, 10, 0.2]],
    ['  translate( 1 , 2 )\n scale( 2 ) ', [2, 0, 0, 2, 1, 2]],
    ['', identity],
  ])('%s', (text, want) => near(parseTransform(text), want));

  test('what is broken is left out and told, and the rest still counts', () => {
    const bad: string[] = [];
    near(
      parseTransform('translate(5) wobble(3) matrix(1 2 3) scale(2)', (what) => bad.push(what)),
      [2, 0, 0, 2, 5, 0],
    );
    expect(bad).toEqual(['wobble(3)', 'matrix(1 2 3)']);
    near(
      parseTransform('scale() translate(4)', (what) => bad.push(what)),
      [1, 0, 0, 1, 4, 0],
    );
    near(
      parseTransform('translate(1e999)', (what) => bad.push(what)),
      identity,
    );
    expect(bad.slice(2)).toEqual(['scale()', 'translate(1e999)']);
  });
});

describe('boxes', () => {
  test('together, middle, diagonal', () => {
    expect(unite([0, 0, 3, 4], [-1, 2, 2, 9])).toEqual([-1, 0, 3, 9]);
    expect([unite(undefined, [0, 0, 1, 1]), unite([0, 0, 1, 1], undefined), unite(undefined, undefined)]).toEqual([
      [0, 0, 1, 1],
      [0, 0, 1, 1],
      undefined,
    ]);
    expect([centreX([2, 0, 6, 4]), centreY([2, 0, 6, 4]), diagonal([0, 0, 3, 4])]).toEqual([4, 2, 5]);
  });
  test('the gap between two, from edge to edge and from corner to corner', () => {
    expect(gap([0, 0, 1, 1], [4, 0, 5, 1])).toBe(3);
    expect(gap([0, 0, 1, 1], [4, 5, 6, 7])).toBe(5);
    expect(gap([4, 5, 6, 7], [0, 0, 1, 1])).toBe(5);
    expect([gap([0, 0, 4, 4], [1, 1, 2, 2]), gap([0, 0, 1, 1], [1, 1, 2, 2])]).toEqual([0, 0]);
  });
  test('a box that is turned needs more room', () => {
    near(boxAround([-1, -1, 1, 1], parseTransform('rotate(45)')), [-Math.SQRT2, -Math.SQRT2, Math.SQRT2, Math.SQRT2]);
    near(boxAround([0, 0, 2, 1], parseTransform('scale(-1 1)')), [-2, 0, 0, 1]);
  });
});
