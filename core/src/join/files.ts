/**
 * Joining, taking back and carrying over: what theirs did since the base is done to ours, the result is read again,
 * and only what is as promised is given out.
 */
import { open, type Content } from '../kinds/content.ts';
import type { Step } from '../kinds/kind.ts';
import type { Choice } from '../contract/joining.ts';
import type { Design } from '../model/design.ts';
import { ReadError } from '../model/problem.ts';
import type { Box } from '../geometry/box.ts';
import type { Compared } from '../kinds/compare-files.ts';
import { carriedIntoPicture, isRaster, joinedPictures, takenBackFromPicture } from './pictures.ts';
import { editsBetween, Effects, type SourceEdits } from './edits.ts';
import type { Joined, JoinOptions } from './joined.ts';
import { shortfall, shortfallBeside } from './prove.ts';
import { around, nodeAt, partsWithin } from './side.ts';
import { threeWay, type Clash, type Wanted } from './three-way.ts';
import { tellClash } from './tell.ts';
import { sideIn, unitOf, type ChangedPart, type Unit, type UnitSide } from './units.ts';
import { wholeFiles } from './whole.ts';
import { written } from './write.ts';

/** Ours with what theirs did since the base. Throws ReadError where a side cannot be read or the result is not sound. */
export async function joinFiles(
  base: Content,
  ours: Content,
  theirs: Content,
  options: JoinOptions = {},
): Promise<Joined> {
  const unit = unitOf(base, ours, theirs);
  if (unit === undefined)
    return (await joinedPictures(base, ours, theirs, options)) ?? wholeFiles(base, ours, theirs, options);
  const sides = [await sideIn(unit, base), await sideIn(unit, ours), await sideIn(unit, theirs)] as const;
  const toOurs = await unit.step(sides[0], sides[1]);
  const toTheirs = await unit.step(sides[0], sides[2]);
  return join({ unit, ours, sides, toOurs, toTheirs, options });
}

/** What leads back. */
const reversed = ({ pairing, edited }: Step): Step => ({
  pairing: { ...pairing, toA: pairing.toB, toB: pairing.toA },
  edited: new Set([...edited].map((j) => pairing.toA[j] as number)),
});

interface Task {
  readonly unit: Unit;
  readonly ours: Content;
  readonly sides: readonly [base: UnitSide, ours: UnitSide, theirs: UnitSide];
  readonly toOurs: Step;
  readonly toTheirs: Step;
  readonly options: JoinOptions;
  /** The two have nothing in common: all that comes is put in beside what is there. */
  readonly areStrangers?: boolean;
  /** Only some of what theirs did. */
  readonly choose?: (theirs: SourceEdits) => Chosen;
}

interface Chosen {
  readonly edits: SourceEdits;
  readonly wanted: Wanted;
  readonly inseparable: readonly string[];
}

const everything: Wanted = { isWanted: () => true, isWantedNew: () => true };

async function join(task: Task): Promise<Joined> {
  const [base, ours, theirs] = task.sides;
  const ourEdits = editsBetween(base, ours, task.toOurs);
  const theirEdits = editsBetween(base, theirs, task.toTheirs);
  const { edits, wanted, inseparable } = task.choose?.(theirEdits) ?? {
    edits: theirEdits,
    wanted: everything,
    inseparable: [],
  };
  const { decisions, prefer = 'ours' } = task.options;
  const decide = ({ key, choices }: Clash): Choice => {
    const choice = decisions?.get(key) ?? prefer;
    return choices.includes(choice) ? choice : 'ours';
  };
  const plan = threeWay(ourEdits, edits, decide, wanted);
  const told = plan.clashes.map((clash) => tellClash(clash, task.sides, decide(clash), decisions));
  if (plan.acts.length === 0) return { bytes: task.ours.bytes, clashes: told, inseparable, changed: false };
  const toOurs = edits.pairs.toX.map((b) => (b < 0 ? -1 : (ourEdits.pairs.toY[b] as number)));
  const bytes = await written(
    {
      ours: ours.source,
      base: base.source,
      theirs: theirs.source,
      toOurs,
      areStrangers: task.areStrangers ?? false,
      isWantedNew: (node) => wanted.isWantedNew(node),
    },
    plan.acts,
  );
  await prove(task, ourEdits, edits, plan, bytes, wanted);
  return { bytes, clashes: told, inseparable, changed: true };
}

async function prove(
  task: Task,
  ourEdits: SourceEdits,
  edits: SourceEdits,
  plan: ReturnType<typeof threeWay>,
  bytes: Uint8Array,
  wanted: Wanted,
): Promise<void> {
  const { unit } = task;
  const result = await open(bytes, task.ours.name, task.ours.limits);
  if (unitOf(task.ours, result) !== unit)
    throw new ReadError(
      `What was made of the two could not be read again, so nothing was changed. ${result.problem?.sentence ?? ''}`.trim(),
    );
  const [, ours, theirs] = task.sides;
  const made = await sideIn(unit, result);
  const steps = {
    fromOurs: await unit.step(ours, made),
    fromTheirs: await unit.step(theirs, made),
    baseToOurs: task.toOurs,
    baseToTheirs: task.toTheirs,
  };
  const { unwanted, missing } = task.areStrangers
    ? shortfallBeside(edits, plan, steps.fromOurs, wanted)
    : shortfall(ourEdits, edits, plan, steps, wanted);
  if (unwanted + missing > 0)
    throw new ReadError(
      `What was made of the two was read again and is not what was promised (${unwanted} parts changed that should not, ${missing} are not as they should be), so nothing was changed.`,
      undefined,
      'unsupported',
    );
}

/** The same for changes of the comparison of A and B, by their places in its list. */
export async function takeBackChanges(
  a: Content,
  b: Content,
  newest: Content,
  { compared, changes }: { readonly compared: Compared; readonly changes: readonly number[] },
  options: JoinOptions = {},
): Promise<Joined> {
  const unit = unitOf(a, b, newest);
  if (!unit && isRaster(a, b, newest)) {
    const boxes = changes.flatMap((k) => {
      const { boxA, boxB } = compared.comparison.changes[k] ?? { boxA: null, boxB: null };
      return [boxA, boxB].flatMap((box) => (box ? [box] : []));
    });
    return takenBackFromPicture(a, b, newest, boxes, options);
  }
  const pairs = changes.flatMap((k) => {
    const pair = unit?.pairOf(compared, k);
    return pair ? [pair] : [];
  });
  return takeBack(a, b, newest, pairs, options);
}

/** The newest version without some of what was done from A to B; what came later stays. */
export async function takeBack(
  a: Content,
  b: Content,
  newest: Content,
  chosen: readonly ChangedPart[],
  options: JoinOptions = {},
): Promise<Joined> {
  const unit = unitOf(a, b, newest);
  if (unit === undefined)
    throw new ReadError(
      'Single changes of such files cannot be taken back; a version as a whole can be brought forward.',
      undefined,
      'unsupported',
    );
  const [sideA, sideB, sideNewest] = [await sideIn(unit, a), await sideIn(unit, b), await sideIn(unit, newest)];
  const done = await unit.step(sideA, sideB);
  return join({
    unit,
    ours: newest,
    sides: [sideB, sideNewest, sideA],
    toOurs: await unit.step(sideB, sideNewest),
    toTheirs: reversed(done),
    options,
    choose: (edits) => chooseParts(edits, done, chosen),
  });
}

/** Of what was done, only what shows in chosen parts, and in no others. */
function chooseParts(edits: SourceEdits, done: Step, chosen: readonly ChangedPart[]): Chosen {
  const [inA, inB] = [0, 1].map((side) => new Set(chosen.map((pair) => pair[side] as number).filter((k) => k >= 0)));
  const effects = new Effects(edits.from);
  const inseparable = new Set<string>();
  const isTouched = (part: number): boolean => {
    const there = done.pairing.toA[part] ?? -1;
    return there < 0 || done.edited.has(part);
  };
  const known = new Map<number, boolean>();
  const isWanted = (node: number): boolean => {
    const before = known.get(node);
    if (before !== undefined) return before;
    const shown = [...effects.of(node)].filter(isTouched);
    const wanted = shown.filter((part) => inB?.has(part));
    const all = wanted.length > 0 && wanted.length === shown.length;
    if (wanted.length > 0 && !all)
      for (const part of wanted) inseparable.add(edits.from.design.parts[part]?.name ?? '');
    known.set(node, all);
    return all;
  };
  const isChosen = (node: number): boolean => inA?.has(edits.to.partOfNode[node] ?? -1) ?? false;
  const isWantedNew = (node: number): boolean => {
    const parts = [...partsWithin(edits.to, node)];
    if (parts.length === 0 || parts.some((part) => inA?.has(part))) return true;
    // What belongs to a chosen part comes with it, such as its attributes.
    return [...around(edits.to.source, node)].some(isChosen);
  };
  const removed = new Set([...edits.removed].flatMap((top) => parted(edits, top, isWanted)));
  const inserted = edits.inserted.filter((top) => partsWithin(edits.to, top).next().done !== true);
  const narrowed = { ...edits, removed, inserted };
  for (const node of [...edits.changed, ...edits.moved, ...removed]) isWanted(node);
  return { edits: narrowed, wanted: { isWanted, isWantedNew }, inseparable: [...inseparable] };
}

/** A node that is gone, or those within it that are wanted alone. */
function parted({ from }: SourceEdits, top: number, isWanted: (node: number) => boolean): number[] {
  if (nodeAt(from.source, top).children.length === 0 || isWanted(top)) return [top];
  return nodeAt(from.source, top).children.flatMap((child) => parted({ from } as SourceEdits, child, isWanted));
}

/** What is carried over: parts by their places in the design, layers of a picture by theirs. */
export interface Carried {
  readonly parts?: readonly number[];
  /** All on layers of these names; of layered pictures, the layers themselves. */
  readonly layers?: readonly string[];
  /** Whole pages of a document, by their places. */
  readonly pages?: readonly number[];
  /** Rectangles of a flat picture, in pixels. */
  readonly boxes?: readonly Box[];
  /** All that comes is put in as new. Where it is not said, that is so of files that have little in common. */
  readonly asNew?: boolean;
}

/** `into` with parts of `from`, as they are there, and with all that they need. */
export async function carryOver(
  from: Content,
  into: Content,
  { parts = [], layers = [], pages = [], boxes = [], asNew }: Carried,
  options: JoinOptions = {},
): Promise<Joined> {
  const unit = unitOf(from, into);
  if (!unit && boxes.length > 0 && isRaster(from, into)) return carriedIntoPicture(from, into, boxes);
  if (unit === undefined)
    throw new ReadError('Parts of such files cannot be carried over; the whole file can.', undefined, 'unsupported');
  const [there, here] = [await sideIn(unit, from), await sideIn(unit, into)];
  const step = asNew === true ? undefined : await unit.step(here, there);
  const isKnown = step !== undefined && (asNew === false || haveMuchInCommon(step));
  const toFrom = isKnown ? step : strangers(here.design, there.design);
  const named = there.design.parts.flatMap((part, j) => (layers.some((layer) => unit.isOn(part, layer)) ? [j] : []));
  const pointed = parts.map((part) => unit.partOf(from, part)).filter((j) => j >= 0);
  const wanted = new Set([...pointed, ...named, ...pages]);
  const chosen = [...wanted].map((j): ChangedPart => [j, toFrom.pairing.toA[j] ?? -1]);
  return join({
    unit,
    ours: into,
    sides: [here, here, there],
    toOurs: await unit.step(here, here),
    toTheirs: toFrom,
    options,
    areStrangers: !isKnown,
    choose: (edits) => chooseParts(edits, reversed(toFrom), chosen),
  });
}

/** Share of the parts of the smaller one that are the same in both, as of versions of one file. */
const IN_COMMON = 0.3;

function haveMuchInCommon({ pairing: { toA, toB }, edited }: Step): boolean {
  const same = toB.reduce((n, j) => n + (j >= 0 && !edited.has(j) ? 1 : 0), 0);
  return same >= IN_COMMON * Math.min(toA.length, toB.length) && same > 0;
}

function strangers(a: Design, b: Design): Step {
  const toB = new Int32Array(a.parts.length).fill(-1);
  const toA = new Int32Array(b.parts.length).fill(-1);
  return { pairing: { toA, toB, keysTrusted: false, renumbered: true }, edited: new Set() };
}
