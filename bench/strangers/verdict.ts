/** What Ovrel says of two files, in one word. */
import type { Comparison } from '@ovrel/core';
import { open } from '../../core/src/kinds/content.ts';
import { compareFiles } from '../../core/src/kinds/compare-files.ts';
import '../../core/src/node/engines.ts';

export type Verdict = 'same' | 'written otherwise' | 'changed';

/** Causes that say that nothing is drawn otherwise. */
const WRITING: ReadonlySet<string> = new Set([
  'written-otherwise',
  'rewritten',
  'renumbered',
  'lines-regrouped',
  'block-made',
  'block-exploded',
  'order-changed',
  'units-converted',
  'numbers-converted',
]);

export interface Said {
  readonly verdict: Verdict;
  readonly comparison: Comparison;
  readonly milliseconds: number;
}

/** A program that fits pages onto another paper scales them, and that is said. */
const PRINTING: ReadonlySet<string> = new Set([...WRITING, 'everything-placed', 'page-resized']);

export async function verdictOn(a: Buffer, b: Buffer, name: string): Promise<Said> {
  const start = performance.now();
  const { comparison } = await compareFiles(await open(a, name), await open(b, name));
  const { causes, changes } = comparison;
  const isSame = causes.length === 0 && changes.length === 0;
  const isWriting = causes.every(({ code }) => (name.endsWith('.pdf') ? PRINTING : WRITING).has(code));
  const other: Verdict = isWriting ? 'written otherwise' : 'changed';
  return { verdict: isSame ? 'same' : other, comparison, milliseconds: performance.now() - start };
}

export const firstSentences = ({ comparison }: Said): string =>
  comparison.causes
    .slice(0, 4)
    .map(({ sentence }) => sentence)
    .join(' | ');
