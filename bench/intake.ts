/**
 * Folders of old copies of which it is known how they came about: whether each is put behind the right one. Beside what
 * the order of names and that of times alone would say.
 */
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { intakePlan, lookAtCopy, type FoundCopy, type IntakePlan } from '@ovrel/core';
import { root } from '../bin/lib/prepare.mjs';
import { drawFraming, framings } from '../demo/drawings/framing.ts';
import { drawPlan, plans } from '../demo/drawings/plan.ts';
import { boards, drawBoard } from '../demo/drawings/signs.ts';
import { dxfDrawing, svgDrawing, write, type Drawing } from './accuracy/drawing.ts';
import { randomFrom, type Random } from './accuracy/scripts.ts';
import { twoSides } from './join/edits.ts';
import { line, time } from './measure.ts';

const FOLDERS = 60;
const FROM = Date.UTC(2026, 8, 1);
const HOUR = 3_600_000;

/** How much of what is said about copies is true. */
type Manner = 'honest times' | 'some times wrong' | 'nothing said';

interface Made {
  readonly copies: readonly FoundCopy[];
  /** By path: the path of the copy that it was made from; null for the first. */
  readonly parent: ReadonlyMap<string, string | null>;
  /** By path: which file it is of. */
  readonly file: ReadonlyMap<string, number>;
}

const lookedAt = (path: string, bytes: Uint8Array, at: number): Promise<FoundCopy> =>
  lookAtCopy(path, bytes, at, createHash('sha256').update(bytes).digest('hex'));
const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);

function drawings(): Drawing[] {
  const real = join(root, 'demo/real');
  return [
    ...framings.slice(0, 7).map((f) => dxfDrawing('deck framing', drawFraming(f.framing))),
    ...Object.values(plans)
      .slice(0, 5)
      .map((p) => svgDrawing('landing plan', bytesOf(drawPlan(p)))),
    ...Object.values(boards)
      .slice(0, 5)
      .map((b) => svgDrawing('signs', bytesOf(drawBoard(b)))),
    ...readdirSync(real)
      .filter((name) => name.endsWith('.svg'))
      .map((name) => svgDrawing(name.replace('.svg', ''), readFileSync(join(real, name)))),
  ];
}

const marks = ['-v{n}', ' ({n})', '_rev{n}', '-final-{n}', '.{nnnn}', ' copy {n}'];

async function folder(base: Drawing, fileIndex: number, random: Random, manner: Manner): Promise<Made> {
  const count = 5 + random(36);
  const made: { drawing: Drawing; parent: number; at: number }[] = [{ drawing: base, parent: -1, at: FROM }];
  for (let k = 1; k < count; k++) {
    // Mostly from the newest, now and then from one further back: a branch.
    const parent = random(7) === 0 ? random(made.length) : made.length - 1;
    const from = made[parent] as (typeof made)[number];
    const { ours } = twoSides(
      { ...from.drawing, items: from.drawing.items.map((i, n) => ({ ...i, from: n })) },
      random,
      2,
      0,
    );
    made.push({ drawing: { ...base, items: ours.items }, parent, at: FROM + k * HOUR * (1 + random(40)) });
  }
  for (const [k, copy] of made.entries())
    copy.at = Math.max(
      copy.at,
      (made[copy.parent]?.at ?? 0) + HOUR,
      k > 0 ? (made[k - 1] as { at: number }).at + HOUR : 0,
    );
  const mark = marks[random(marks.length)] as string;
  const ending = base.format === 'dxf' ? '.dxf' : '.svg';
  const shuffled = made.map((_, k) => k);
  for (let k = shuffled.length - 1; k > 0; k--) {
    const other = random(k + 1);
    [shuffled[k], shuffled[other]] = [shuffled[other] as number, shuffled[k] as number];
  }
  const nameOf = (k: number): string => {
    const n = manner === 'nothing said' ? (shuffled[k] as number) : k;
    const marked =
      manner === 'nothing said'
        ? ` ${String.fromCharCode(97 + (n % 26))}${n > 25 ? 'x' : ''}`
        : mark.replace('{nnnn}', String(n).padStart(4, '0')).replace('{n}', String(n));
    return `${base.name} ${fileIndex}x${marked}${ending}`;
  };
  const copies: FoundCopy[] = [];
  for (const [k, { drawing, at }] of made.entries()) {
    const bytes = write(drawing);
    const isWrong = manner === 'some times wrong' && random(6) === 0;
    const time_ = isWrong ? FROM + random(1000) * HOUR : at;
    copies.push(await lookedAt(nameOf(k), bytes, manner === 'nothing said' ? FROM : time_));
  }
  return {
    copies,
    parent: new Map(made.map(({ parent }, k) => [nameOf(k), parent < 0 ? null : nameOf(parent)])),
    file: new Map(made.map((_, k) => [nameOf(k), fileIndex])),
  };
}

interface Score {
  right: number;
  all: number;
}

const share = ({ right, all }: Score): string => (right / Math.max(1, all)).toFixed(4);

export async function benchIntake(): Promise<void> {
  const bases = drawings();
  for (const manner of ['honest times', 'some times wrong', 'nothing said'] as const) {
    const [content, neighbours, names, times, grouping, claimed] = Array.from({ length: 6 }, (): Score => ({
      right: 0,
      all: 0,
    }));
    for (let seed = 0; seed < FOLDERS; seed++) {
      const random = randomFrom(seed * 7919 + 13);
      // Two files lie in each folder.
      const made: Made[] = [];
      for (const n of [0, 1])
        made.push(await folder(bases[(seed + 7 * n) % bases.length] as Drawing, n, random, manner));
      const copies = made.flatMap((m) => m.copies);
      const plan = intakePlan(copies);
      judge(plan, made, { content, neighbours, grouping, claimed } as Scores);
      for (const m of made) {
        byOrder(m, (a, b) => a.path.localeCompare(b.path, 'en', { numeric: true }), names as Score);
        byOrder(m, (a, b) => (a.at ?? 0) - (b.at ?? 0), times as Score);
      }
    }
    line(
      `intake, ${manner}: the right parent`,
      share(content as Score),
      `by the order of names ${share(names as Score)}, of times ${share(times as Score)}`,
    );
    line(`intake, ${manner}: the right neighbour`, share(neighbours as Score), 'whichever of the two came first');
    line(
      `intake, ${manner}: in the right group`,
      share(grouping as Score),
      `claimed with 0.9 or more: ${share(claimed as Score)} right of ${(claimed as Score).all}`,
    );
  }
  const large = new Uint8Array(1024 * 1024);
  const random = randomFrom(5);
  for (let k = 0; k < large.length; k++) large[k] = 32 + random(90);
  const megabytes = async (count: number): Promise<FoundCopy[]> => {
    const all: FoundCopy[] = [];
    for (let k = 0; k < count; k++) {
      const bytes = large.slice();
      for (let n = Math.max(0, k - 400); n <= k; n++) bytes.set(bytesOf(`edit ${n} of the schedule`), (2000 * n) % 1e6);
      all.push(await lookedAt(`schedule-${k}.txt`, bytes, FROM + k * HOUR));
    }
    return all;
  };
  for (const count of [300, 2000]) {
    const plans: IntakePlan[] = [];
    const took = await time(async () => void plans.push(intakePlan(await megabytes(count))));
    const inOrder = plans[0]?.files[0]?.members.filter(
      ({ parent }, k, all) => parent === (all[k - 1]?.path ?? null),
    ).length;
    line(`intake of ${count} copies of 1 MB`, `${(took / 1000).toFixed(1)} s`, `${inOrder} behind the right one`);
  }
}

interface Scores {
  readonly content: Score;
  readonly neighbours: Score;
  readonly grouping: Score;
  readonly claimed: Score;
}

function judge(plan: IntakePlan, made: readonly Made[], { content, neighbours, grouping, claimed }: Scores): void {
  const truth = new Map(made.flatMap((m) => [...m.parent]));
  const fileOf = new Map(made.flatMap((m) => [...m.file]));
  const alias = new Map(plan.files.flatMap((file) => file.duplicates.map(({ path, of }) => [path, of] as const)));
  const as = (path: string | null | undefined): string | null => (path ? (alias.get(path) ?? path) : null);
  for (const { members } of plan.files) {
    const own = fileOf.get(members[0]?.path ?? '');
    for (const { path, parent, sure } of members) {
      grouping.all++;
      if (fileOf.get(path) === own) grouping.right++;
      if (as(truth.get(path)) === path) continue;
      const isRight = parent === as(truth.get(path));
      content.all++;
      if (isRight) content.right++;
      if (parent !== null && sure >= 0.9) {
        claimed.all++;
        if (isRight) claimed.right++;
      }
      if (parent === null) continue;
      neighbours.all++;
      if (isRight || as(truth.get(parent)) === path) neighbours.right++;
    }
  }
  for (const path of plan.left) {
    grouping.all++;
    if (!truth.has(path)) grouping.right++;
  }
}

/** Each behind the one before it in an order. */
function byOrder({ copies, parent }: Made, compare: (a: FoundCopy, b: FoundCopy) => number, score: Score): void {
  // Where all is equal, the order in which they were made must not help.
  const sorted = copies.toSorted((a, b) => a.sha256.localeCompare(b.sha256)).sort(compare);
  sorted.forEach((copy, k) => {
    score.all++;
    if ((sorted[k - 1]?.path ?? null) === parent.get(copy.path)) score.right++;
  });
}
