/** Compares two files: each is read at the best level that works, and both are compared at the level that they share. */
import type { Comparison, Counts, Side } from './contract/comparison.ts';
import { LOCKED } from './formats/pdf/engine.ts';
import type { Opened } from './formats/open.ts';
import { text } from './formats/text/index.ts';
import type { Design } from './model/design.ts';
import { defaultLimits } from './model/limits.ts';
import { compareBytes } from './compare/bytes.ts';
import { compareDesigns, type CompareOptions } from './compare/compare.ts';
import { paged } from './compare/pages.ts';
import { staleSentence, titleBlockChanges } from './titleblock/fields.ts';
import { summarise } from './compare/summary.ts';

/** Results of another engine version are computed anew. */
export const ENGINE = 'ovrel/5';

export const BYTES_NOTE =
  'Compared as bytes: Ovrel has no reader for this kind of file, so it can say whether and where the content differs, but not what changed.';

export interface Input {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly opened: Opened;
}

/** A comparison with the designs and indices that a viewer needs to draw it. */
export interface Compared {
  readonly comparison: Comparison;
  readonly designA: Design | undefined;
  readonly designB: Design | undefined;
  /** For each change the index of its part in A and in B, −1 for none. */
  readonly parts: readonly (readonly [number, number])[];
}

export function compare(a: Input, b: Input, options: CompareOptions = {}): Compared {
  const level = commonLevel(a, b);
  const base = { engine: ENGINE, level, a: sideOf(a), b: sideOf(b) };
  const notes = levelNotes(a, b, level);
  const ownA = level === 'bytes' ? undefined : asLevel(a, level);
  const designB = level === 'bytes' ? undefined : asLevel(b, level);
  // Documents have pages that are put in, taken out and moved.
  const designA = ownA?.format === 'pdf' && designB?.format === 'pdf' ? paged(ownA, designB) : ownA;
  if (!designA || !designB) {
    const { changes, unchanged } = compareBytes(a.bytes, b.bytes);
    const counts: Counts = { added: 0, removed: 0, changed: changes.length, moved: 0, unchanged };
    return {
      comparison: {
        ...base,
        level: 'bytes',
        unit: 'byte',
        counts,
        changes,
        causes: [],
        tolerance: 0,
        notes,
        summary: summarise('bytes', changes, counts, []),
      },
      designA: undefined,
      designB: undefined,
      parts: [],
    };
  }
  const { changes, parts, counts, causes, tolerance } = compareDesigns(designA, designB, options);
  const titles =
    level === 'parts'
      ? titleBlockChanges(designA, designB, new Set(changes.flatMap((c) => [c.partA?.page ?? '', c.partB?.page ?? ''])))
      : [];
  const stale = staleSentence(titles);
  if (stale) notes.push(stale);
  return {
    comparison: {
      ...base,
      ...(titles.length ? { titleBlocks: titles } : {}),
      unit: level === 'text' ? 'line' : (designB.origin.units ?? 'user unit'),
      counts,
      changes,
      causes,
      tolerance,
      notes,
      summary: summarise(level, changes, counts, causes),
    },
    designA,
    designB,
    parts,
  };
}

function commonLevel(a: Input, b: Input): 'parts' | 'text' | 'bytes' {
  const levels = [a.opened.level, b.opened.level];
  if (levels.includes('bytes')) return 'bytes';
  if (levels.includes('text')) return 'text';
  return a.opened.format?.id === b.opened.format?.id ? 'parts' : 'text';
}

/** The design at the level that both sides have; a drawing against text is compared as text. */
function asLevel(input: Input, level: 'parts' | 'text'): Design | undefined {
  if (input.opened.level === level) return input.opened.design;
  return text.read?.(input.bytes, defaultLimits);
}

export function sideOf({ name, bytes, opened }: Input): Side {
  return {
    name,
    bytes: bytes.length,
    format: opened.format?.id ?? null,
    level: opened.level,
    problem: opened.problem?.sentence ?? null,
    ...(opened.problem?.sentence === LOCKED ? { locked: true } : {}),
    notes: [...(opened.design?.notes ?? [])],
  };
}

function levelNotes(a: Input, b: Input, level: 'parts' | 'text' | 'bytes'): string[] {
  const notes: string[] = [];
  if (a.opened.problem) notes.push(`The older file could not be read part by part. ${a.opened.problem.sentence}`);
  if (b.opened.problem) notes.push(`The newer file could not be read part by part. ${b.opened.problem.sentence}`);
  if (level === 'text' && (a.opened.level === 'parts' || b.opened.level === 'parts'))
    notes.push('Compared line by line.');
  if (level === 'bytes' && !(a.opened.problem ?? b.opened.problem)) notes.push(BYTES_NOTE);
  return notes;
}
