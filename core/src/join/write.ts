/** Does to ours what was decided, in bytes: what no act names stays as it is. */
import { concat } from '../bytes/concat.ts';
import type { Rename, Source, SourceNode, Splice } from '../model/source.ts';
import { isEqualTree } from './equal.ts';
import { isOpaque } from './pair-nodes.ts';
import type { Act } from './three-way.ts';

/** Ours and what comes into it. `toOurs` gives for each node of theirs its node in ours, −1 for none. */
export interface Into {
  readonly ours: Source;
  readonly base: Source;
  readonly theirs: Source;
  readonly toOurs: Int32Array;
  /** The two have nothing in common. */
  readonly areStrangers: boolean;
  /** Of new nodes of theirs, those that come. */
  readonly isWantedNew: (node: number) => boolean;
}

const nothing = new Uint8Array(0);

/** Bytes of ours with all acts done. Throws where two of them touch one another. */
export const written = async (into: Into, acts: readonly Act[]): Promise<Uint8Array> => new Writing(into, acts).run();

class Writing {
  private readonly into: Into;
  private readonly acts: readonly Act[];
  private splices: Splice[] = [];
  /** Bytes of moved nodes, by their node in theirs. */
  private readonly pulled = new Map<number, Uint8Array>();
  private readonly names = new Map<string, string>();
  private readonly keysOfOurs = new Map<string, number[]>();
  private readonly keysOfTheirs = new Map<string, number[]>();
  private readonly keysOfBase = new Map<string, number[]>();
  private readonly gone = new Set<number>();
  private readonly movedAway = new Set<number>();
  private readonly known: ReadonlySet<number>;
  private readonly given = new Set<string>();
  /** Nodes of theirs that come in, whether wanted themselves or needed by others. */
  private readonly coming = new Set<number>();
  private readonly tops = new Set<number>();

  constructor(into: Into, acts: readonly Act[]) {
    this.into = into;
    this.acts = acts;
    collectKeys(into.ours, this.keysOfOurs);
    collectKeys(into.theirs, this.keysOfTheirs);
    collectKeys(into.base, this.keysOfBase);
    this.known = new Set(into.toOurs);
    for (const act of acts) {
      if (act.do === 'remove' || act.do === 'move') this.gone.add(act.ours);
      if (act.do === 'move') this.movedAway.add(act.ours);
    }
  }

  run(): Uint8Array | Promise<Uint8Array> {
    this.nameWhatIsThere();
    this.findWhatComes();
    for (const act of this.acts) if (act.do === 'change') this.change(act);
    this.takeOut();
    this.putIn();
    const inOrder = this.splices
      .map((splice, k) => ({ splice, k }))
      .sort((a, b) => a.splice.start - b.splice.start || a.splice.end - b.splice.end || a.k - b.k);
    return this.into.ours.written(inOrder.map(({ splice }) => splice));
  }

  private readonly rename: Rename = (key) => this.names.get(key) ?? (isOpaque(key) ? undefined : key);

  /** Keys of theirs as ours calls what they name. */
  private nameWhatIsThere(): void {
    const { ours, theirs, toOurs } = this.into;
    toOurs.forEach((o, t) => {
      if (o < 0) return;
      const own = at(theirs, t).keys;
      const there = at(ours, o).keys;
      for (const sort of [true, false]) {
        const names = there.filter((key) => isOpaque(key) === sort);
        own
          .filter((key) => isOpaque(key) === sort)
          .forEach((key, k) => {
            const name = names[k];
            if (name !== undefined && (sort || this.isRenamedByOurs(key))) this.names.set(key, name);
          });
      }
    });
  }

  /** Theirs calls it what the base does; so another name in ours was given by ours. */
  private isRenamedByOurs(key: string): boolean {
    return this.keysOfBase.has(key) && !this.keysOfOurs.has(key);
  }

  /** All that is put in, and what it takes: definitions, layers, styles, whatever is referred to and is not there. */
  private findWhatComes(): void {
    const { theirs } = this.into;
    const pending: number[] = [];
    for (const act of this.acts) {
      if (act.do === 'insert') this.bring(act.theirs, pending, false);
      if (act.do === 'change') pending.push(act.theirs);
    }
    for (let node = pending.pop(); node !== undefined; node = pending.pop()) {
      for (const key of theirs.refersTo(node)) {
        if (this.names.has(key) || (!isOpaque(key) && this.isThere(key))) continue;
        for (const needed of this.keysOfTheirs.get(key) ?? []) {
          const there = this.equalOfOurs(needed, key);
          if (there === undefined) this.bring(needed, pending, true);
          else this.names.set(key, there);
        }
      }
    }
  }

  /** Ours has what is called so. Of files that have nothing in common it must say the same, where it holds something. */
  private isThere(key: string): boolean {
    const { ours, theirs, areStrangers } = this.into;
    const there = this.keysOfOurs.get(key);
    if (!there || !areStrangers) return there !== undefined;
    const holding = (this.keysOfTheirs.get(key) ?? []).filter((t) => at(theirs, t).children.length > 0);
    return holding.every((t) => there.some((o) => isEqualTree(ours, o, theirs, t)));
  }

  /** `whole`: all that it holds comes, too; else only what is wanted of it. */
  private bring(top: number, pending: number[], whole: boolean): void {
    const { theirs, isWantedNew, toOurs } = this.into;
    if (this.coming.has(top)) return;
    this.tops.add(top);
    const inside = [top];
    for (let node = inside.pop(); node !== undefined; node = inside.pop()) {
      const comes = node === top || whole || (toOurs[node] === -1 && isWantedNew(node));
      if (!comes || this.coming.has(node)) continue;
      this.coming.add(node);
      pending.push(node);
      this.nameNew(node);
      inside.push(...at(theirs, node).children);
    }
  }

  /** A key of its own for what comes in; another one where ours has it for something else. */
  private nameNew(node: number): void {
    const { ours, theirs } = this.into;
    // What ours has something of its own for comes beside it.
    const isBeside = this.into.toOurs[node] !== -1;
    for (const key of at(theirs, node).keys) {
      if (this.given.has(this.names.get(key) ?? '') || (this.names.has(key) && !isBeside)) continue;
      const isTaken = (name: string): boolean => this.keysOfOurs.has(name) || this.given.has(name);
      const name = isTaken(key) ? ours.free(key, isTaken) : key;
      this.given.add(name);
      this.names.set(key, name);
    }
  }

  /** The key of something in ours that is the same as what is needed, word for word. */
  private equalOfOurs(needed: number, key: string): string | undefined {
    if (!isOpaque(key)) return undefined;
    const { ours, theirs } = this.into;
    const there = this.keysOfOurs.get(key)?.find((o) => isEqualTree(ours, o, theirs, needed));
    return there === undefined ? undefined : key;
  }

  private change({ ours, base, theirs, keep, words }: Extract<Act, { do: 'change' }>): void {
    const { into } = this;
    const from = base < 0 ? { source: into.ours, node: ours } : { source: into.base, node: base };
    if (words) for (const [, value] of words) this.splices.push(...(into.ours.worded?.(ours, value) ?? []));
    else this.splices.push(...into.ours.changed(ours, from, { source: into.theirs, node: theirs }, this.rename, keep));
  }

  /** What is removed or moved away; what was done within it goes with it. */
  private takeOut(): void {
    const { ours } = this.into;
    const moves = new Map(this.acts.flatMap((act) => (act.do === 'move' ? [[act.ours, act.theirs] as const] : [])));
    // From the inside out.
    const nodes = [...this.gone].sort((a, b) => b - a);
    for (const node of nodes) {
      const { start, end } = at(ours, node);
      const [from, to] = ours.extent(node);
      const inside = this.splices.filter((s) => s.start >= start && s.end <= end && !(s.start === end));
      const theirs = moves.get(node);
      if (theirs !== undefined) this.pulled.set(theirs, applied(ours.bytes, start, end, inside));
      this.splices = this.splices.filter((s) => !(s.start >= from && s.end <= to && s.start !== to));
      this.splices.push({ start: from, end: to, bytes: nothing });
    }
  }

  private putIn(): void {
    const { ours, theirs, toOurs } = this.into;
    const arriving = [...this.tops, ...this.pulled.keys()]
      .filter((t) => !this.coming.has(at(theirs, t).parent))
      .sort((a, b) => a - b);
    const gaps = new Map<string, { parent: number; behind: number; bytes: Uint8Array[] }>();
    for (const t of arriving) {
      const { home, around } = this.homeOf(t);
      const parent = toOurs[home] as number;
      const behind = this.behind(around[0] ?? t, parent);
      const gap = gaps.get(`${parent} ${behind}`) ?? { parent, behind, bytes: [] };
      gaps.set(`${parent} ${behind}`, gap);
      gap.bytes.push(concat([theirs.roomBefore(around[0] ?? t), this.wrapped(around, this.rendered(t))]));
    }
    for (const { parent, behind, bytes } of gaps.values()) {
      const { at: start, end, open, close } = ours.gap(parent, behind);
      this.splices.push({ start, end, bytes: concat([open, ...bytes, close]) });
    }
  }

  /** The nearest holder that ours has, and those within it that ours has not, outermost first. */
  private homeOf(t: number): { home: number; around: number[] } {
    const { theirs, toOurs } = this.into;
    const around: number[] = [];
    let home = at(theirs, t).parent;
    while (home > 0 && (toOurs[home] === -1 || this.gone.has(toOurs[home] as number))) {
      around.unshift(home);
      home = at(theirs, home).parent;
    }
    return { home: Math.max(0, home), around };
  }

  private wrapped(around: readonly number[], bytes: Uint8Array): Uint8Array {
    const { ours, theirs } = this.into;
    return around.reduceRight((inner, node) => {
      const { head, tail } = ours.copied({ source: theirs, node }, this.rename);
      return concat([head, inner, tail]);
    }, bytes);
  }

  /** A node of theirs with all that comes within it. */
  private rendered(t: number): Uint8Array {
    const { ours, theirs } = this.into;
    const moved = this.pulled.get(t);
    if (moved) return moved;
    const { head, tail } = ours.copied({ source: theirs, node: t }, this.rename);
    const inner = at(theirs, t).children.filter((c) => this.coming.has(c) || this.pulled.has(c));
    if (inner.length === 0) return concat([head, tail]);
    const pieces = inner.flatMap((c) => [theirs.roomBefore(c), this.rendered(c)]);
    return concat([head, ...pieces, tail]);
  }

  /** The child of `parent` behind which a node of theirs belongs; −1 before all of them. */
  private behind(t: number, parent: number): number {
    const { ours, theirs, toOurs } = this.into;
    const { children } = at(theirs, at(theirs, t).parent);
    const own = at(ours, parent).children;
    const here = (c: number): number => {
      const o = toOurs[c] as number;
      return o >= 0 && at(ours, o).parent === parent && !this.movedAway.has(o) ? o : -1;
    };
    const place = children.indexOf(t);
    for (let k = place - 1; k >= 0; k--) {
      const o = here(children[k] as number);
      if (o >= 0) return this.pastNew(own, own.indexOf(o));
    }
    for (let k = place + 1; k < children.length; k++) {
      const o = here(children[k] as number);
      if (o >= 0) return own[own.indexOf(o) - 1] ?? -1;
    }
    return ours.comesFirst ? -1 : (own.at(-1) ?? -1);
  }

  /** What ours put in after it comes first. */
  private pastNew(own: readonly number[], place: number): number {
    let k = place;
    while (k + 1 < own.length && !this.known.has(own[k + 1] as number)) k++;
    return own[k] as number;
  }
}

const at = (source: Source, node: number): SourceNode => source.nodes[node] as SourceNode;

function collectKeys(source: Source, into: Map<string, number[]>): void {
  source.nodes.forEach(({ keys }, node) => {
    for (const key of keys) {
      const nodes = into.get(key);
      if (nodes) nodes.push(node);
      else into.set(key, [node]);
    }
  });
}

/** Bytes `start` to `end` with splices that lie within. */
function applied(bytes: Uint8Array, start: number, end: number, splices: readonly Splice[]): Uint8Array {
  const pieces: Uint8Array[] = [];
  let from = start;
  for (const splice of [...splices].sort((a, b) => a.start - b.start || a.end - b.end)) {
    pieces.push(bytes.subarray(from, splice.start), splice.bytes);
    from = splice.end;
  }
  return concat([...pieces, bytes.subarray(from, end)]);
}
