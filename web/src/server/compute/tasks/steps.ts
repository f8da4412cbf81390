import { kindOf, modelOf, open, stepsOf, type KindId } from '@ovrel/core';
import type { Source, Task } from '../task.ts';
import { compared } from './shared.ts';

interface Input {
  readonly chain: readonly Source[];
  readonly tolerance?: number;
}

class Unreadable extends Error {}

/** For each change between the ends of a chain, by its id, the steps that touched its part (stepsOf), from 0. */
export const steps: Task<Input, Record<string, number[]>> = async ({ chain, tolerance }) => {
  const [first] = chain;
  const last = chain.at(-1);
  if (!first || !last) return {};
  const { kind, comparison, parts } = await compared(first, last, tolerance);
  const { step } = kindOf(kind);
  if (!step || !parts) return {};
  const models = await modelsOf(chain, kind).catch((error: unknown) => {
    if (error instanceof Unreadable) return undefined;
    throw error;
  });
  if (!models) return {};
  const options = tolerance === undefined ? {} : { tolerance };
  const touched = stepsOf(parts.parts, models, (a, b) => step(a, b, options));
  return Object.fromEntries(comparison.changes.map((c, n) => [c.id, (touched[n] ?? []).map((s) => s - 1)]));
};

/** Each seen as the ends are; where one in between cannot be seen so, nothing is said. */
async function modelsOf(chain: readonly Source[], kind: KindId): Promise<never[]> {
  const out: unknown[] = [];
  for (const { bytes, name } of chain) {
    const content = await open(bytes, name);
    if (content.kinds[0] !== kind) throw new Unreadable();
    out.push(await modelOf(content, kind));
  }
  return out as never[];
}
