/** The one comparison engine: from two files to a list of what changed. */
import type { Change, Comparison, Counts, PartSummary, Side } from '../contract/comparison.ts';
import type { Opened } from '../formats/open.ts';
import { text } from '../formats/text/index.ts';
import { toleranceFor } from '../match/fingerprints.ts';
import type { Pairing } from '../match/pairing.ts';
import { matchParts } from '../match/parts.ts';
import { matchSequence } from '../match/sequence.ts';
import type { Design, Part } from '../model/design.ts';
import { defaultLimits } from '../model/limits.ts';
import { compareBytes } from './bytes.ts';
import { sameCategories } from './categories.ts';
import { differences, type Context } from './differences.ts';
import { summarise } from './summary.ts';

/** Results of another engine version are computed anew. */
export const ENGINE = 'ovrel/1';

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

export function compare(a: Input, b: Input): Compared {
  const level = commonLevel(a, b);
  const base = { engine: ENGINE, level, a: sideOf(a), b: sideOf(b) };
  const notes = levelNotes(a, b, level);
  const designA = level === 'bytes' ? undefined : asLevel(a, level), designB = level === 'bytes' ? undefined : asLevel(b, level);
  if (!designA || !designB) {
    const { changes, unchanged } = compareBytes(a.bytes, b.bytes);
    const counts: Counts = { added: 0, removed: 0, changed: changes.length, moved: 0, unchanged };
    return { comparison: { ...base, level: 'bytes', unit: 'byte', counts, changes, notes, summary: summarise('bytes', changes, counts) }, designA: undefined, designB: undefined, parts: [] };
  }
  const { changes, parts, counts } = compareDesigns(designA, designB);
  return {
    comparison: { ...base, unit: level === 'text' ? 'line' : (designB.origin.units ?? 'user unit'), counts, changes, notes, summary: summarise(level, changes, counts) },
    designA, designB, parts,
  };
}

/** Changes between two designs, in the order of B (removed parts where they stood in A). */
export function compareDesigns(a: Design, b: Design): { changes: Change[]; parts: [number, number][]; counts: Counts; pairing: Pairing } {
  const tolerance = toleranceFor(a, b);
  const pairing = a.sequential && b.sequential ? matchSequence(a, b) : matchParts(a, b, tolerance);
  const context: Context = { a, b, tolerance, sameCategory: sameCategories(a, b, pairing) };
  const counts: Counts = { added: 0, removed: 0, changed: 0, moved: 0, unchanged: 0 };
  const changes: Change[] = [], parts: [number, number][] = [];
  const push = (change: Omit<Change, 'id'>, i: number, j: number): void => {
    changes.push({ id: `c${changes.length + 1}`, ...change });
    parts.push([i, j]);
    counts[change.kind]++;
  };
  let nextA = 0;
  const removedUpTo = (end: number): void => {
    for (; nextA < end; nextA++) {
      const part = a.parts[nextA];
      if (!part || pairing.toB[nextA] !== -1) continue;
      const summary = summaryOf(a, part);
      push({ kind: 'removed', part: summary, partA: summary, what: [], boxA: boxOf(part), boxB: null }, nextA, -1);
    }
  };
  b.parts.forEach((part, j) => {
    const i = pairing.toA[j] as number;
    const before = a.parts[i];
    if (!before) {
      const summary = summaryOf(b, part);
      push({ kind: 'added', part: summary, partB: summary, what: [], boxA: null, boxB: boxOf(part) }, -1, j);
      return;
    }
    removedUpTo(Math.max(nextA, i));
    const what = differences(context, before, part);
    if (!what.length) {
      counts.unchanged++;
      return;
    }
    const kind = what.every((w) => w.aspect === 'placement') ? 'moved' : 'changed';
    push({ kind, part: summaryOf(b, part), partA: summaryOf(a, before), partB: summaryOf(b, part), what, boxA: boxOf(before), boxB: boxOf(part) }, i, j);
  });
  removedUpTo(a.parts.length);
  return { changes, parts, counts, pairing };
}

const round = (n: number): number => Math.round(n * 1e4) / 1e4;

const boxOf = (part: Part): Change['boxA'] => (part.box ? [round(part.box[0]), round(part.box[1]), round(part.box[2]), round(part.box[3])] : null);

const summaryOf = (design: Design, part: Part): PartSummary => ({
  key: part.key ?? null, kind: part.kind, name: part.name, category: part.category, page: design.pages[part.page]?.name ?? '',
});

function commonLevel(a: Input, b: Input): Comparison['level'] {
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

function sideOf({ name, bytes, opened }: Input): Side {
  return { name, bytes: bytes.length, format: opened.format?.id ?? null, level: opened.level, problem: opened.problem?.sentence ?? null, notes: [...(opened.design?.notes ?? [])] };
}

function levelNotes(a: Input, b: Input, level: Comparison['level']): string[] {
  const notes: string[] = [];
  if (a.opened.problem) notes.push(`The older file could not be read part by part. ${a.opened.problem.sentence}`);
  if (b.opened.problem) notes.push(`The newer file could not be read part by part. ${b.opened.problem.sentence}`);
  if (level === 'text' && (a.opened.level === 'parts' || b.opened.level === 'parts')) notes.push('Compared line by line.');
  if (level === 'bytes') notes.push('Compared as bytes: Ovrel has no reader for this kind of file, so it can say whether and where the content differs, but not what changed.');
  return notes;
}
