/**
 * A file as it is written: records within records, each with its place in the bytes. What a reader makes of it is the
 * design; this is what can be changed without touching the rest.
 */

/** Letters in any encoding; the source that takes them writes them in its own. */
export type Fields = ReadonlyMap<string, string>;

export interface SourceNode {
  /** Name of an element, type of a record. */
  readonly kind: string;
  /** What others refer to it by, each with the space that the name is of: `#lamp`, `layer walls`, `handle 1F`. */
  readonly keys: string[];
  /** Index of the node that holds it; −1 for the root, which stands first. */
  readonly parent: number;
  readonly children: number[];
  /** Bytes of it and all that it holds. */
  readonly start: number;
  end: number;
}

/** New bytes in the place of some that are there; none are replaced where `start` is `end`. */
export interface Splice {
  readonly start: number;
  readonly end: number;
  readonly bytes: Uint8Array;
}

/** A node of some source. */
export interface At {
  readonly source: Source;
  readonly node: number;
}

/** Other names for keys: of a node that is copied, and of all that it refers to. Undefined: that is not there. */
export type Rename = (key: string) => string | undefined;

/** Where children that are put in go: bytes `at` to `end` make room for them. */
export interface Gap {
  readonly at: number;
  readonly end: number;
  /** What stands around all of them. */
  readonly open: Uint8Array;
  readonly close: Uint8Array;
}

export interface Source {
  /** Of the same format: pieces of one can be written into the other. */
  readonly format: string;
  /** What the places of nodes mean; of files in wide letters, these are not the file's own. */
  readonly bytes: Uint8Array;
  /** Parents before what they hold, in the order of the file. */
  readonly nodes: readonly SourceNode[];
  /** Whether the order of children means something: always, only where they cover one another, or never. */
  readonly order: 'always' | 'covering' | 'never';
  /** What comes in and has no neighbour that is known stands before all others; behind them where it is left out. */
  readonly comesFirst?: true;
  /** Its own statement in a spelling for comparing, without its own keys and without what it holds. */
  fields(node: number, rename?: Rename): Fields;
  /** Keys that its own statement refers to. */
  refersTo(node: number): readonly string[];
  /** Nothing that anybody drew: time stamps, counters, settings of the program. */
  isHousekeeping(node: number): boolean;
  /** The node that a part of the design was read from; −1 for none. */
  nodeOf(span: readonly [number, number], index: number): number;

  /** Changes of its own statement: what leads from `from` to `to` is done to it, except fields in `keep`. */
  changed(node: number, from: At, to: At, rename: Rename, keep: ReadonlySet<string>): Splice[];
  /** Its own statement as it stands in another source, in two halves: what it holds goes between. */
  copied(from: At, rename: Rename): { readonly head: Uint8Array; readonly tail: Uint8Array };
  /** White space before a node, where it means nothing. */
  roomBefore(node: number): Uint8Array;
  /** The place behind a child, or for −1 before all of them. */
  gap(parent: number, behind: number): Gap;
  /** What goes with a node that is taken out: it and the room before it. */
  extent(node: number): readonly [number, number];
  /** A key that nothing has, made from one that something has. */
  free(key: string, taken: (key: string) => boolean): string;
  /** The words of two sides in one; undefined where they cannot be. */
  merged?(field: string, base: string, ours: string, theirs: string): string | undefined;
  /** Its own statement with another value of a field that `merged` gave. */
  worded?(node: number, value: string): Splice[];
  /** The file with these splices, which do not touch one another, in the order of their places. */
  written(splices: readonly Splice[]): Uint8Array | Promise<Uint8Array>;
}
