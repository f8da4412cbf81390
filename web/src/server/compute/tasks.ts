/** What runs in a worker thread: pure functions from bytes to results. The types of both ends are here. */
import { zstdCompressSync } from 'node:zlib';
import { compare, open, pictureOf, viewTag, type Comparison, type Picture } from '@ovrel/core';
import type { Look } from '../../contract/look.ts';

export interface Source {
  readonly bytes: Uint8Array;
  readonly name: string;
}

export type Task = { readonly kind: 'look'; readonly source: Source } | { readonly kind: 'compare'; readonly a: Source; readonly b: Source };

export interface ComparisonResult {
  readonly comparison: Comparison;
  readonly picture: Picture;
}

export interface Results {
  look: Look;
  /** Compressed JSON of a ComparisonResult, and its summary. */
  compare: { value: Uint8Array; summary: string };
}

export function perform(task: Task): Results[Task['kind']] {
  return task.kind === 'look' ? look(task.source) : compareSources(task.a, task.b);
}

function look({ bytes, name }: Source): Look {
  const { format, level, design, problem } = open(bytes, name);
  const page = design?.pages[0];
  const tag = level === 'parts' && format?.id === 'svg' && page ? viewTag(bytes, page.box) : undefined;
  const tally = (names: string[]): Record<string, number> => names.reduce<Record<string, number>>((out, n) => Object.assign(out, { [n]: (out[n] ?? 0) + 1 }), {});
  return {
    level, format: format?.id ?? null, formatTitle: format?.title ?? null, problem: problem?.sentence ?? null,
    program: design?.origin.program ?? null, units: design?.origin.units ?? null,
    page: level === 'parts' && page ? { box: [...page.box], unitMillimetres: page.unitMillimetres ?? null } : null,
    parts: level === 'parts' ? design?.parts.length ?? 0 : 0,
    lines: level === 'text' ? design?.parts.length ?? 0 : 0,
    kinds: level === 'parts' ? tally(design?.parts.map((p) => p.kind) ?? []) : {},
    notes: [...(design?.notes ?? [])],
    viewTag: tag ?? null,
  };
}

function compareSources(a: Source, b: Source): Results['compare'] {
  const compared = compare({ ...a, opened: open(a.bytes, a.name) }, { ...b, opened: open(b.bytes, b.name) });
  const result: ComparisonResult = { comparison: compared.comparison, picture: pictureOf(compared) };
  return { value: zstdCompressSync(JSON.stringify(result)), summary: compared.comparison.summary };
}
