/**
 * Two sides that both come from one base, record by record: what theirs did is done to ours, except where both did
 * something to the same.
 */
import type { Choice, ClashKind } from '../contract/joining.ts';
import { gap, type Box } from '../geometry/box.ts';
import { isEqualTree } from './equal.ts';
import type { SourceEdits } from './edits.ts';
import { around, nodeAt, partsWithin, within, type Side } from './side.ts';

export interface Clash {
  /** The same for the same three contents. */
  readonly key: string;
  readonly kind: ClashKind;
  /** Nodes, −1 where a side has none. */
  readonly base: number;
  readonly ours: number;
  readonly theirs: number;
  readonly choices: readonly Choice[];
}

/** Something to be done to ours. */
export type Act =
  | {
      readonly do: 'change';
      readonly ours: number;
      readonly base: number;
      readonly theirs: number;
      readonly keep: ReadonlySet<string>;
      readonly words?: ReadonlyMap<string, string>;
    }
  | { readonly do: 'remove'; readonly ours: number }
  | { readonly do: 'move'; readonly ours: number; readonly theirs: number }
  | { readonly do: 'insert'; readonly theirs: number };

export interface ThreeWay {
  readonly acts: readonly Act[];
  readonly clashes: readonly Clash[];
}

/** What of theirs is wanted; all of it where it is left out. */
export interface Wanted {
  /** Nodes of the base. */
  isWanted(node: number): boolean;
  /** Nodes of theirs that are new. */
  isWantedNew(node: number): boolean;
}

const all: Wanted = { isWanted: () => true, isWantedNew: () => true };

/** `ours` and `theirs`: what each did since the base. `decide`: how a clash was decided; ours where it was not. */
export function threeWay(
  ours: SourceEdits,
  theirs: SourceEdits,
  decide: (clash: Clash) => Choice,
  wanted: Wanted = all,
): ThreeWay {
  return new Joining(ours, theirs, decide, wanted).run();
}

class Joining {
  private readonly acts: Act[] = [];
  private readonly clashes: Clash[] = [];
  private readonly base: Side;
  private readonly ours: SourceEdits;
  private readonly theirs: SourceEdits;
  private readonly decide: (clash: Clash) => Choice;
  private readonly wanted: Wanted;
  private readonly newOfOurs: New;
  private readonly newOfTheirs: New;
  /** Nodes of ours that hold something that ours did, or are it. */
  private readonly touchedByOurs: ReadonlySet<number>;

  constructor(ours: SourceEdits, theirs: SourceEdits, decide: (clash: Clash) => Choice, wanted: Wanted) {
    this.base = ours.from;
    this.ours = ours;
    this.theirs = theirs;
    this.decide = decide;
    this.wanted = wanted;
    this.touchedByOurs = touched(ours);
    this.newOfOurs = new New(ours);
    this.newOfTheirs = new New(theirs);
  }

  run(): ThreeWay {
    for (const b of this.theirs.changed) if (this.wanted.isWanted(b)) this.change(b, true);
    for (const b of this.theirs.respelled) if (this.wanted.isWanted(b)) this.change(b, false);
    for (const b of this.theirs.removed) if (this.wanted.isWanted(b)) this.remove(b);
    for (const b of this.theirs.moved) if (this.wanted.isWanted(b)) this.move(b);
    for (const t of this.theirs.inserted) if (this.wanted.isWantedNew(t)) this.insert(t);
    this.bringBack();
    return { acts: this.acts, clashes: this.clashes };
  }

  private clash(kind: ClashKind, nodes: Pick<Clash, 'base' | 'ours' | 'theirs'>, choices: readonly Choice[]): Choice {
    const at = nodes.base >= 0 ? `b${nodes.base}` : `t${nodes.theirs}`;
    const clash: Clash = { key: `${kind} ${at}`, kind, ...nodes, choices };
    this.clashes.push(clash);
    const choice = this.decide(clash);
    return choices.includes(choice) ? choice : 'ours';
  }

  /** `shows`: somebody would see it. */
  private change(b: number, shows: boolean): void {
    const { base } = this;
    const o = this.ours.pairs.toY[b] as number;
    const t = this.theirs.pairs.toY[b] as number;
    // What ours removed is told once, for all of it.
    if (o < 0) return;
    // Time stamps and counters: ours stand.
    if (!shows && base.source.isHousekeeping(b)) return;
    if (this.ours.respelled.has(b) && !shows) return;
    if (!this.ours.changed.has(b)) {
      this.acts.push({ do: 'change', ours: o, base: b, theirs: t, keep: new Set() });
      return;
    }
    if (!shows) return;
    this.changedByBoth(b, o, t);
  }

  private changedByBoth(b: number, o: number, t: number): void {
    const { source } = this.base;
    const was = source.fields(b);
    const own = renamed(this.ours, o);
    const other = renamed(this.theirs, t);
    const names = [...new Set([...was.keys(), ...own.keys(), ...other.keys()])];
    const oursDid = names.filter((n) => was.get(n) !== own.get(n));
    const both = oursDid.filter((n) => was.get(n) !== other.get(n) && own.get(n) !== other.get(n));
    const theirsDid = names.filter((n) => was.get(n) !== other.get(n) && own.get(n) !== other.get(n));
    if (theirsDid.length === 0) return;
    const act = { do: 'change', ours: o, base: b, theirs: t } as const;
    const isPart = (this.base.partOfNode[b] as number) >= 0;
    const words = isPart && both.length === 1 ? this.merged(both[0] as string, was, own, other) : undefined;
    if (words) {
      this.acts.push({ ...act, keep: new Set(oursDid), words });
      return;
    }
    // Of what is no part, such as a group, each side may change something else.
    if (!isPart && both.length === 0) {
      this.acts.push({ ...act, keep: new Set(oursDid) });
      return;
    }
    const choices: readonly Choice[] = both.length === 0 ? ['ours', 'theirs', 'both'] : ['ours', 'theirs'];
    const choice = this.clash('both-changed', { base: b, ours: o, theirs: t }, choices);
    if (choice === 'theirs') this.acts.push({ ...act, base: -1, keep: new Set() });
    if (choice === 'both') this.acts.push({ ...act, keep: new Set(oursDid) });
  }

  private merged(
    name: string,
    ...[was, own, other]: readonly ReadonlyMap<string, string>[]
  ): ReadonlyMap<string, string> | undefined {
    const words = this.base.source.merged?.(name, was?.get(name) ?? '', own?.get(name) ?? '', other?.get(name) ?? '');
    return words === undefined ? undefined : new Map([[name, words]]);
  }

  private remove(b: number): void {
    const o = this.ours.pairs.toY[b] as number;
    if (o < 0 || this.base.source.isHousekeeping(b)) return;
    const isKept = this.touchedByOurs.has(o) || this.ours.changed.has(b);
    if (isKept && this.clash('changed-and-removed', { base: b, ours: o, theirs: -1 }, ['ours', 'theirs']) === 'ours')
      return;
    this.acts.push({ do: 'remove', ours: o });
  }

  private move(b: number): void {
    const o = this.ours.pairs.toY[b] as number;
    if (o < 0 || this.ours.moved.has(b)) return;
    this.acts.push({ do: 'move', ours: o, theirs: this.theirs.pairs.toY[b] as number });
  }

  private insert(t: number): void {
    const { source } = this.theirs.to;
    if (source.isHousekeeping(t) || this.isThereAlready(t)) return;
    // Within what ours removed there is no place: it comes back with what is told of that, or not at all.
    const home = this.theirs.pairs.toX[nodeAt(source, t).parent] as number;
    if ((this.ours.pairs.toY[home] as number) < 0) return;
    const rivals = this.rivals(t);
    if (rivals.length) {
      const nodes = { base: -1, ours: rivals[0] as number, theirs: t };
      const choice = this.clash('same-place', nodes, ['ours', 'theirs', 'both']);
      if (choice === 'ours') return;
      if (choice === 'theirs') for (const ours of rivals) this.acts.push({ do: 'remove', ours });
    }
    this.acts.push({ do: 'insert', theirs: t });
  }

  /** Both sides put the same in. */
  private isThereAlready(t: number): boolean {
    const home = this.theirs.pairs.toX[nodeAt(this.theirs.to.source, t).parent] as number;
    const equals = this.newOfOurs.within(home).filter((o) => isSameSize(this.ours.to, o, this.theirs.to, t));
    return equals.some((o) => isEqualTree(this.ours.to.source, o, this.theirs.to.source, t));
  }

  /** What ours put into the same gap, where the order of the two would show. */
  private rivals(t: number): readonly number[] {
    const { order } = this.base.source;
    if (order === 'never') return [];
    const home = this.theirs.pairs.toX[nodeAt(this.theirs.to.source, t).parent] as number;
    const beside = this.newOfOurs.behind(home, this.newOfTheirs.gapOf(t));
    return order === 'always' ? beside : beside.filter((o) => this.overlap(o, t));
  }

  private overlap(o: number, t: number): boolean {
    const [sideO, sideT] = [this.ours.to, this.theirs.to];
    const boxes = (side: Side, node: number): Box[] =>
      [...partsWithin(side, node)].flatMap((part) => {
        const box = side.design.parts[part]?.box;
        return box ? [box] : [];
      });
    return boxes(sideO, o).some((p) => boxes(sideT, t).some((q) => gap(p, q) <= 0));
  }

  /** What ours removed, and theirs changed or put something into. */
  private bringBack(): void {
    for (const b of this.ours.removed) {
      if (this.theirs.pairs.toY[b] === -1 || this.base.source.isHousekeeping(b)) continue;
      const done = [...within(this.base.source, b)].some(
        (n) => (this.theirs.changed.has(n) || this.theirs.removed.has(n)) && this.wanted.isWanted(n),
      );
      const filled = this.theirs.inserted.some((t) => this.wanted.isWantedNew(t) && this.isWithin(t, b));
      if (!done && !filled) continue;
      const t = this.theirs.pairs.toY[b] as number;
      if (this.clash('removed-and-changed', { base: b, ours: -1, theirs: t }, ['ours', 'theirs']) === 'theirs')
        this.acts.push({ do: 'insert', theirs: t });
    }
  }

  private isWithin(t: number, b: number): boolean {
    const home = this.theirs.pairs.toY[b] as number;
    for (const holder of around(this.theirs.to.source, t)) if (holder === home) return true;
    return false;
  }
}

/** Nodes of `to` that were changed or put in, and all that hold one. */
function touched({ to, pairs, changed, inserted }: SourceEdits): Set<number> {
  const found = new Set<number>();
  const mark = (node: number): void => {
    for (let at = node; at >= 0 && !found.has(at); at = nodeAt(to.source, at).parent) found.add(at);
  };
  for (const b of changed) mark(pairs.toY[b] as number);
  for (const node of inserted) mark(node);
  return found;
}

const renamed = ({ to, names }: SourceEdits, node: number): ReadonlyMap<string, string> =>
  to.source.fields(node, (key) => names.get(key) ?? key);

const isSameSize = (x: Side, p: number, y: Side, q: number): boolean =>
  nodeAt(x.source, p).kind === nodeAt(y.source, q).kind &&
  nodeAt(x.source, p).children.length === nodeAt(y.source, q).children.length;

/** What a side put in, by the node of the base that holds it and the one that it stands behind. */
class New {
  private readonly homes = new Map<number, number[]>();
  private readonly gaps = new Map<number, number>();

  constructor({ to, pairs, inserted }: SourceEdits) {
    const isNew = new Set(inserted);
    for (const node of inserted) {
      const { parent } = nodeAt(to.source, node);
      const home = pairs.toX[parent] as number;
      const beside = this.homes.get(home);
      if (beside) beside.push(node);
      else this.homes.set(home, [node]);
      if (this.gaps.has(node)) continue;
      let behind = -1;
      for (const child of nodeAt(to.source, parent).children) {
        if (isNew.has(child)) this.gaps.set(child, behind);
        const b = pairs.toX[child] as number;
        if (b >= 0) behind = b;
      }
    }
  }

  within(home: number): readonly number[] {
    return this.homes.get(home) ?? [];
  }

  /** The node of the base behind which something new stands; −1 at the beginning. */
  gapOf(node: number): number {
    return this.gaps.get(node) ?? -1;
  }

  behind(home: number, gap: number): number[] {
    return this.within(home).filter((node) => this.gaps.get(node) === gap);
  }
}
