/** In which steps of a history the differences between its two ends were made. */
import type { Design } from '../model/design.ts';
import { compareDesigns, type CompareOptions } from './compare.ts';

interface Step {
  /** For each part of the design before and after: its pair on the other side, −1 for none. */
  readonly toA: Int32Array;
  readonly toB: Int32Array;
  /** Parts of the design after that differ from their pairs. */
  readonly edited: ReadonlySet<number>;
}

/**
 * For each change between the first and the last design, the steps that touched its part, oldest first; step 1 leads from the first
 * design to the second. An added part has the step that added it and those that changed it later, a removed one the step that
 * removed it. Empty where following the part lost it. Designs are taken from `chain` one after the other and only two are held.
 */
export function stepsOf(
  compared: { readonly parts: readonly (readonly [number, number])[] },
  chain: Iterable<Design>,
  options: CompareOptions = {},
): number[][] {
  const steps: Step[] = [];
  let before: Design | undefined;
  for (const design of chain) {
    if (before) steps.push(stepBetween(before, design, options));
    before = design;
  }
  return compared.parts.map(([i, j]) => (j >= 0 ? backwards(steps, j) : forwards(steps, i)));
}

function stepBetween(a: Design, b: Design, options: CompareOptions): Step {
  const { pairing, parts } = compareDesigns(a, b, options);
  return {
    toA: Int32Array.from(pairing.toA),
    toB: Int32Array.from(pairing.toB),
    edited: new Set(parts.flatMap(([i, j]) => (i >= 0 && j >= 0 ? [j] : []))),
  };
}

function backwards(steps: readonly Step[], last: number): number[] {
  const out: number[] = [];
  let part = last;
  for (let s = steps.length; s > 0 && part >= 0; s--) {
    const step = steps[s - 1] as Step;
    const from = step.toA[part] ?? -1;
    if (from < 0 || step.edited.has(part)) out.unshift(s);
    part = from;
  }
  return out;
}

function forwards(steps: readonly Step[], first: number): number[] {
  let part = first;
  for (const [s, step] of steps.entries()) {
    part = step.toB[part] ?? -1;
    if (part < 0) return [s + 1];
  }
  return [];
}
