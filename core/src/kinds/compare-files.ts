/** Compares two contents as the nearest kind that both can be seen as, and says which. */
import { assemble } from '../causes/assemble.ts';
import { summarise } from '../causes/summary.ts';
import type { Comparison, Side } from '../contract/comparison.ts';
import type { KindId } from '../model/card.ts';
import { orUnreadable, ReadError } from '../model/problem.ts';
import type { Content } from './content.ts';
import { modelOf, seenAs } from './conversions.ts';
import type { ChangeOutlines } from './drawing/outlines.ts';
import type { CompareOptions, ComparedParts, FoundInPair, Kind, Seen } from './kind.ts';
import { kindOf } from './registry.ts';

/** Results of another engine version are computed anew. */
export const ENGINE = 'ovrel/16';

/** A comparison with what a viewer, a report or another computation needs beside it. */
export interface Compared {
  readonly comparison: Comparison;
  readonly outlines: ChangeOutlines;
  readonly kind: KindId;
  readonly parts?: ComparedParts;
  /** Of pictures: the differences of their squares. */
  readonly map?: Uint8Array;
}

export async function compareFiles(a: Content, b: Content, options: CompareOptions = {}): Promise<Compared> {
  const shared = seenAs(a).filter((kind) => seenAs(b).includes(kind));
  const failures: string[] = [];
  for (const id of shared) {
    const found = await comparedAs(id, a, b, options, failures);
    if (found) return told(id, a, b, found, failures);
  }
  throw new Error('two contents could not even be compared as bytes');
}

/** Undefined where the two cannot be compared so; why is added to `failures` where a reader should know. */
async function comparedAs(
  id: KindId,
  a: Content,
  b: Content,
  options: CompareOptions,
  failures: string[],
): Promise<FoundInPair | undefined> {
  const kind = kindOf(id) as Kind<unknown>;
  const [modelA, modelB] = await Promise.all([orUnreadable(modelOf(a, id)), orUnreadable(modelOf(b, id))]);
  if (modelA instanceof ReadError || modelB instanceof ReadError) {
    if (modelA instanceof ReadError) failures.push(unreadable('older', id, modelA));
    if (modelB instanceof ReadError) failures.push(unreadable('newer', id, modelB));
    return undefined;
  }
  if (kind.comparable && !kind.comparable(modelA, modelB)) return undefined;
  const seen = <Model>(content: Content, model: Model): Seen<Model> => ({ content, model });
  const found = await orUnreadable(
    Promise.resolve().then(() => kind.compare(seen(a, modelA), seen(b, modelB), options)),
  );
  if (!(found instanceof ReadError)) return found;
  failures.push(unreadable('one', id, found));
  return undefined;
}

function unreadable(which: 'older' | 'newer' | 'one', id: KindId, { message }: ReadError): string {
  const what = id === 'picture' ? 'picture' : 'file';
  const subject = which === 'one' ? `One ${what}` : `The ${which} ${what}`;
  return `${subject} could not be looked into. ${message}`;
}

function told(id: KindId, a: Content, b: Content, found: FoundInPair, failures: readonly string[]): Compared {
  const { level } = kindOf(id);
  const { changes, causes, counts } = assemble(found);
  const comparison: Comparison = {
    engine: ENGINE,
    level,
    unit: found.unit,
    a: sideOf(a, id, found.sideNotes?.a),
    b: sideOf(b, id, found.sideNotes?.b),
    ...(found.titleBlocks?.length ? { titleBlocks: found.titleBlocks } : {}),
    counts,
    changes,
    causes,
    tolerance: found.tolerance,
    ...(found.measures ? { measures: found.measures } : {}),
    notes: [...failures, ...problemNotes(id, a, b), ...found.notes],
    summary: summarise(level, changes, counts, causes),
  };
  return {
    comparison,
    outlines: found.outlines,
    kind: id,
    ...(found.parts ? { parts: found.parts } : {}),
    ...(found.map ? { map: found.map } : {}),
  };
}

/** Seen as pictures, both are looked at by their pixels; pixels that are not compared were not looked at. */
function lookedAtAs(nearest: KindId, compared: KindId): KindId {
  if (compared === 'picture') return compared;
  return nearest === 'picture' ? 'bytes' : nearest;
}

/** What is known of one side. */
function sideOf(
  { name, bytes, card, kinds, problem, design }: Content,
  compared: KindId,
  notes: readonly string[] = design?.notes ?? [],
): Side {
  return {
    name,
    bytes: bytes.length,
    format: card?.id ?? null,
    level: kindOf(lookedAtAs(kinds[0], compared)).level,
    problem: problem?.sentence ?? null,
    ...(problem?.code === 'locked' ? { locked: true } : {}),
    notes: [...notes],
  };
}

/** Why a content was not compared as what it claims to be. */
function problemNotes(id: KindId, a: Content, b: Content): string[] {
  if (id === 'picture') return [];
  const notes: string[] = [];
  if (a.problem) notes.push(`The older file could not be read part by part. ${a.problem.sentence}`);
  if (b.problem) notes.push(`The newer file could not be read part by part. ${b.problem.sentence}`);
  if (id === 'text' && (a.kinds[0] !== 'text' || b.kinds[0] !== 'text')) notes.push('Compared line by line.');
  if (id === 'bytes' && !notes.length) notes.push(BYTES_NOTE);
  return notes;
}

export const BYTES_NOTE =
  'Compared as bytes: Ovrel has no reader for this kind of file, so it can say whether and where the content differs, but not what changed.';
