/** In which steps of a history the differences between its two ends were made. */
import type { Step } from '../kind.ts';
import type { ComparedDesigns } from './compare.ts';

export const editedOf = ({ pairing, parts }: Pick<ComparedDesigns, 'pairing' | 'parts'>): Step => ({
  pairing,
  edited: new Set(parts.flatMap(([i, j]) => (i >= 0 && j >= 0 ? [j] : []))),
});

/**
 * For each change between the first and the last version, the steps that touched its part, oldest first; step 1 leads
 * from the first version to the second. An added part has the step that added it and those that changed it later, a
 * removed one the step that removed it. Empty where following the part lost it. Models are taken from `chain` one
 * after the other and only two are held.
 */
export function stepsOf<Model>(
  parts: readonly (readonly [number, number])[],
  chain: Iterable<Model>,
  stepBetween: (a: Model, b: Model) => Step,
): number[][] {
  const steps: Step[] = [];
  let before: Model | undefined;
  for (const model of chain) {
    if (before) steps.push(stepBetween(before, model));
    before = model;
  }
  return parts.map(([i, j]) => (j >= 0 ? backwards(steps, j) : forwards(steps, i)));
}

function backwards(steps: readonly Step[], last: number): number[] {
  const out: number[] = [];
  let part = last;
  for (let s = steps.length; s > 0 && part >= 0; s--) {
    const step = steps[s - 1] as Step;
    const from = step.pairing.toA[part] ?? -1;
    if (from < 0 || step.edited.has(part)) out.unshift(s);
    part = from;
  }
  return out;
}

function forwards(steps: readonly Step[], first: number): number[] {
  let part = first;
  for (const [s, step] of steps.entries()) {
    part = step.pairing.toB[part] ?? -1;
    if (part < 0) return [s + 1];
  }
  return [];
}
