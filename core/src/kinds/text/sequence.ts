/** Pairs of lines. */
import type { Design } from '../../model/design.ts';
import { pairInSequence } from '../../match/in-sequence.ts';
import type { Pairing } from '../../match/pairing.ts';
import { similarity } from '../../text/similarity.ts';

/** Above this many lines without a likeness they are paired by place. */
const WINDOW = 20_000;
/** Lines further on that may be what a line became. */
const REACH = 12;
/** Lines that are so alike are the same line, changed. */
const ALIKE = 0.5;

export function matchSequence(a: Design, b: Design): Pairing {
  const x = a.parts.map((p) => String(p.props['text']));
  const y = b.parts.map((p) => String(p.props['text']));
  const toB = new Int32Array(x.length).fill(-1);
  const toA = new Int32Array(y.length).fill(-1);
  const pair = (i: number, j: number): void => {
    toB[i] = j;
    toA[j] = i;
  };
  pairInSequence(x, y, pair, (x0, x1, y0, y1) => {
    if (x1 - x0 + y1 - y0 > WINDOW) for (let k = 0; k < Math.min(x1 - x0, y1 - y0); k++) pair(x0 + k, y0 + k);
    else pairAlike(x, y, [x0, x1, y0, y1], pair);
  });
  return { toB, toA, keysTrusted: false, renumbered: false };
}

/** Within a replaced run, lines that still resemble one another are the same line, changed; in order. */
function pairAlike(
  x: readonly string[],
  y: readonly string[],
  [x0, x1, y0, y1]: readonly [number, number, number, number],
  pair: (i: number, j: number) => void,
): void {
  let j = y0;
  for (let i = x0; i < x1 && j < y1; i++) {
    for (let k = j; k < Math.min(y1, j + REACH); k++) {
      if (similarity(x[i] as string, y[k] as string) >= ALIKE) {
        pair(i, k);
        j = k + 1;
        break;
      }
    }
  }
}
