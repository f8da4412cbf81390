/**
 * Joining, taking back and carrying over: what theirs did since the base is done to ours, the result is read again,
 * and only what is as promised is given out.
 */
import { partSummary } from '../kinds/drawing/part-summary.ts';
import type { Content } from '../kinds/content.ts';
import { open } from '../kinds/content.ts';
import type { Step } from '../kinds/kind.ts';
import { kindOf } from '../kinds/registry.ts';
import type { Choice, ClashSide, ToldClash } from '../contract/joining.ts';
import type { Design } from '../model/design.ts';
import { ReadError } from '../model/problem.ts';
import { editsBetween, Effects, type SourceEdits } from './edits.ts';
import { shortfall, shortfallBeside } from './prove.ts';
import { around, nodeAt, partsWithin, sideOf, type Side } from './side.ts';
import { threeWay, type Clash, type Wanted } from './three-way.ts';
import { written } from './write.ts';

export interface Joined {
  readonly bytes: Uint8Array;
  readonly clashes: readonly ToldClash[];
  /** Changes of theirs that are bound to others that were not chosen: names of parts. */
  readonly inseparable: readonly string[];
  /** False where nothing had to be done. */
  readonly changed: boolean;
}

export interface JoinOptions {
  /** By the key of a clash. */
  readonly decisions?: ReadonlyMap<string, Choice>;
  /** For clashes that are not decided. */
  readonly prefer?: Choice;
}

/** Ours with what theirs did since the base. Throws ReadError where a side cannot be read or the result is not sound. */
export async function joinFiles(
  base: Content,
  ours: Content,
  theirs: Content,
  options: JoinOptions = {},
): Promise<Joined> {
  const kind = joinableAs(base, ours, theirs);
  if (kind === undefined) return wholeFiles(base, ours, theirs, options);
  const sides = [base, ours, theirs].map((content) => read(content, kind)) as [Side, Side, Side];
  const toOurs = stepBetween(kind, sides[0], sides[1]);
  const toTheirs = stepBetween(kind, sides[0], sides[2]);
  return join({ kind, ours, sides, toOurs, toTheirs, options });
}

export type PartKind = 'drawing' | 'text';

/** Whether the parts of contents can be put together, and as what. */
export function joinableAs(...contents: readonly Content[]): PartKind | undefined {
  const [first] = contents;
  const kind = first?.kinds[0];
  if (kind !== 'drawing' && kind !== 'text') return undefined;
  const isAlike = contents.every((c) => c.kinds[0] === kind && c.card === first?.card && c.design);
  return isAlike && first?.format?.source?.[kind] ? kind : undefined;
}

function read(content: Content, kind: PartKind): Side {
  const source = content.format?.source?.[kind]?.(content.bytes, content.limits);
  if (!source || !content.design) throw new ReadError('Parts of such files cannot be put together.');
  return sideOf(source, content.design);
}

function stepBetween(kind: PartKind, a: Pick<Side, 'design'>, b: Pick<Side, 'design'>): Step {
  const step = kindOf(kind).step?.(a.design, b.design, {});
  if (!step) throw new Error(`${kind} cannot be followed from version to version`);
  return step;
}

/** What leads back. */
const reversed = ({ pairing, edited }: Step): Step => ({
  pairing: { ...pairing, toA: pairing.toB, toB: pairing.toA },
  edited: new Set([...edited].map((j) => pairing.toA[j] as number)),
});

interface Task {
  readonly kind: PartKind;
  readonly ours: Content;
  readonly sides: readonly [base: Side, ours: Side, theirs: Side];
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
  const bytes = written(
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
  const result = await open(bytes, task.ours.name, task.ours.limits);
  if (result.kinds[0] !== task.kind || !result.design)
    throw new ReadError(
      `What was made of the two could not be read again, so nothing was changed. ${result.problem?.sentence ?? ''}`.trim(),
    );
  const [, ours, theirs] = task.sides;
  const made = { design: result.design };
  const steps = {
    fromOurs: stepBetween(task.kind, ours, made),
    fromTheirs: stepBetween(task.kind, theirs, made),
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

function tellClash(
  clash: Clash,
  [base, ours, theirs]: Task['sides'],
  choice: Choice,
  decisions: JoinOptions['decisions'],
): ToldClash {
  const { key, kind, choices } = clash;
  return {
    key,
    kind,
    choices: [...choices],
    choice,
    decided: decisions?.has(key) ?? false,
    base: sideOfClash(base, clash.base),
    ours: sideOfClash(ours, clash.ours),
    theirs: sideOfClash(theirs, clash.theirs),
  };
}

function sideOfClash(side: Side, node: number): ClashSide | null {
  if (node < 0) return null;
  const own = side.partOfNode[node] as number;
  const [first] = own >= 0 ? [own] : partsWithin(side, node);
  const part = first === undefined ? undefined : side.design.parts[first];
  if (first === undefined || !part) {
    const { kind, keys } = nodeAt(side.source, node);
    const name = keys.at(-1)?.replace(/^(?:#|\w+ )/, '') ?? kind;
    return { part: { key: keys[0] ?? null, kind, name, category: '', page: '' }, box: null, text: null };
  }
  const words = part.lettering?.runs.map((run) => run.text).join('\n') ?? part.props['text'];
  return {
    part: partSummary(side.design, part, first),
    box: part.box ? [...part.box] : null,
    text: words === undefined ? null : String(words),
  };
}

/** Files of which nothing but the whole can be taken. */
function wholeFiles(base: Content, ours: Content, theirs: Content, options: JoinOptions): Joined {
  const isSame = (a: Content, b: Content): boolean =>
    a.bytes.length === b.bytes.length && a.bytes.every((byte, k) => byte === b.bytes[k]);
  const none = { clashes: [], inseparable: [] };
  if (isSame(base, theirs) || isSame(ours, theirs)) return { ...none, bytes: ours.bytes, changed: false };
  if (isSame(base, ours)) return { ...none, bytes: theirs.bytes, changed: true };
  const key = 'whole-file';
  const decided = options.decisions?.get(key);
  const wish = decided ?? options.prefer ?? 'ours';
  const choice = wish === 'theirs' ? 'theirs' : 'ours';
  const clash: ToldClash = {
    key,
    kind: key,
    choices: ['ours', 'theirs'],
    choice,
    decided: decided !== undefined,
    base: null,
    ours: null,
    theirs: null,
  };
  return {
    bytes: choice === 'theirs' ? theirs.bytes : ours.bytes,
    clashes: [clash],
    inseparable: [],
    changed: choice === 'theirs',
  };
}

/** Parts by their places in their designs: of a comparison's change, −1 where a side has none. */
export type ChangedPart = readonly [inA: number, inB: number];

/** The newest version without some of what was done from A to B; what came later stays. */
export async function takeBack(
  a: Content,
  b: Content,
  newest: Content,
  chosen: readonly ChangedPart[],
  options: JoinOptions = {},
): Promise<Joined> {
  const kind = joinableAs(a, b, newest);
  if (kind === undefined)
    throw new ReadError(
      'Single changes of such files cannot be taken back; a version as a whole can be brought forward.',
      undefined,
      'unsupported',
    );
  const [sideA, sideB, sideNewest] = [a, b, newest].map((content) => read(content, kind)) as [Side, Side, Side];
  const done = stepBetween(kind, sideA, sideB);
  return join({
    kind,
    ours: newest,
    sides: [sideB, sideNewest, sideA],
    toOurs: stepBetween(kind, sideB, sideNewest),
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

/** What is carried over: parts by their places in the design. */
export interface Carried {
  readonly parts: readonly number[];
  /** All that comes is put in as new. Where it is not said, that is so of files that have little in common. */
  readonly asNew?: boolean;
}

/** `into` with parts of `from`, as they are there, and with all that they need. */
export async function carryOver(
  from: Content,
  into: Content,
  { parts, asNew }: Carried,
  options: JoinOptions = {},
): Promise<Joined> {
  const kind = joinableAs(from, into);
  if (kind === undefined)
    throw new ReadError('Parts of such files cannot be carried over; the whole file can.', undefined, 'unsupported');
  const [there, here] = [from, into].map((content) => read(content, kind)) as [Side, Side];
  const step = asNew === true ? undefined : stepBetween(kind, here, there);
  const isKnown = step !== undefined && (asNew === false || haveMuchInCommon(step));
  const toFrom = isKnown ? step : strangers(here.design, there.design);
  const chosen = parts.map((j): ChangedPart => [j, toFrom.pairing.toA[j] ?? -1]);
  return join({
    kind,
    ours: into,
    sides: [here, here, there],
    toOurs: stepBetween(kind, here, here),
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
