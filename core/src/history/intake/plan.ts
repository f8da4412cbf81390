/** Folders of old copies as the histories that they are: grouped by content, put in order, with what is doubtful said. */
import { likeness } from '../../desk/sketch.ts';
import type { Written } from '../../model/written.ts';
import { nameSays, type NameSays } from './names.ts';
import { treeOf, type Copy, type Evidence, type Placed } from './tree.ts';

/** What is known of a copy without its bytes, so that thousands can be held at once. */
export interface FoundCopy {
  readonly path: string;
  readonly at: number | undefined;
  /** What it says of itself. */
  readonly inside?: Written;
  /** Of all its bytes: the same content is found twice by it. */
  readonly sha256: string;
  /** A sample of its pieces, and all of them. */
  readonly sketch: Uint32Array;
  readonly pieces: Uint32Array;
}

export interface PlannedMember {
  readonly path: string;
  /** From 1 on each line. */
  readonly version: number;
  /** 0 is the main line: the one with the newest copy. */
  readonly line: number;
  readonly parent: string | null;
  readonly sure: number;
  readonly why: readonly Evidence[];
  /** Who wrote it, as it says itself. */
  readonly by?: string;
}

export interface PlannedFile {
  /** A clean name, proposed. */
  readonly name: string;
  /** Parents before what came from them. */
  readonly members: readonly PlannedMember[];
  /** Paths of copies that hold what another holds, with that other. */
  readonly duplicates: readonly { readonly path: string; readonly of: string }[];
  /** Sentences, such as of names that lie. */
  readonly remarks: readonly string[];
}

export interface IntakePlan {
  readonly files: readonly PlannedFile[];
  /** Copies that are alone: nothing here is another version of them. */
  readonly left: readonly string[];
}

/** Share of pieces above which two are copies of one file, and where their names say the same. */
const ALIKE = 0.4;
const ALIKE_BY_NAME = 0.12;

interface Named extends FoundCopy {
  readonly name: NameSays;
}

export function intakePlan(copies: readonly FoundCopy[]): IntakePlan {
  const firsts = new Map<string, FoundCopy>();
  const duplicates: { path: string; of: string; at: number | undefined }[] = [];
  // Of equal contents the oldest name stays.
  for (const copy of [...copies].sort((a, b) => (a.at ?? 0) - (b.at ?? 0) || a.path.localeCompare(b.path))) {
    const first = firsts.get(copy.sha256);
    if (first) duplicates.push({ path: copy.path, of: first.path, at: copy.at });
    else firsts.set(copy.sha256, copy);
  }
  const distinct = [...firsts.values()].map((copy): Named => ({ ...copy, name: nameSays(copy.path) }));
  const files: PlannedFile[] = [];
  const left: string[] = [];
  for (const group of grouped(distinct)) {
    const paths = new Set(group.map(({ path }) => path));
    const own = duplicates.filter(({ of }) => paths.has(of));
    const [only] = group;
    if (group.length === 1 && only && own.length === 0) left.push(only.path);
    else files.push(planned(group, own));
  }
  files.sort((a, b) => a.name.localeCompare(b.name));
  return { files: namedApart(files), left: left.sort() };
}

/** Files that would be called the same get numbers. */
function namedApart(files: readonly PlannedFile[]): PlannedFile[] {
  const taken = new Set<string>();
  return files.map((file) => {
    const [, stem = '', ending = ''] = /^(.*?)((?:\.[^.]*)?)$/s.exec(file.name) ?? [];
    let name = file.name;
    for (let n = 2; taken.has(name.toLowerCase()); n++) name = `${stem}-${n}${ending}`;
    taken.add(name.toLowerCase());
    return { ...file, name };
  });
}

/** Copies that are alike, directly or through others. */
function grouped(copies: readonly Named[]): Named[][] {
  const home = copies.map((_, k) => k);
  const find = (k: number): number => {
    let at = k;
    while (home[at] !== at) at = home[at] as number;
    home[k] = at;
    return at;
  };
  copies.forEach((a, i) => {
    for (let j = i + 1; j < copies.length; j++) {
      const b = copies[j] as Named;
      if (a.name.ending !== b.name.ending || find(i) === find(j)) continue;
      const isNamedAlike = a.name.stem !== '' && a.name.stem === b.name.stem;
      if (likeness(a.sketch, b.sketch) >= (isNamedAlike ? ALIKE_BY_NAME : ALIKE)) home[find(j)] = find(i);
    }
  });
  const groups = new Map<number, Named[]>();
  copies.forEach((copy, k) => {
    const group = groups.get(find(k));
    if (group) group.push(copy);
    else groups.set(find(k), [copy]);
  });
  return [...groups.values()];
}

function planned(
  group: readonly Named[],
  duplicates: readonly { readonly path: string; readonly of: string; readonly at: number | undefined }[],
): PlannedFile {
  const copies: readonly Copy[] = group;
  const placed = treeOf(copies);
  const lines = linesOf(copies, placed);
  const order = orderOf(placed);
  const members = order.map((k): PlannedMember => {
    const { parent, sure, why } = placed[k] as Placed;
    const { line, version } = lines[k] as LinePlace;
    const { path, inside } = copies[k] as Copy;
    return {
      path,
      version,
      line,
      parent: parent < 0 ? null : (copies[parent] as Copy).path,
      sure: rounded(sure),
      why,
      ...(inside?.by === undefined ? {} : { by: inside.by }),
    };
  });
  return {
    name: cleanName(group),
    members,
    duplicates: duplicates.map(({ path, of }) => ({ path, of })),
    remarks: remarksOn(copies, placed, lines),
  };
}

const rounded = (sure: number): number => Math.round(sure * 100) / 100;

/** Parents first. */
function orderOf(placed: readonly Placed[]): number[] {
  const order: number[] = [];
  const pending = [placed.findIndex(({ parent }) => parent < 0)];
  for (let at = pending.shift(); at !== undefined && at >= 0; at = pending.shift()) {
    order.push(at);
    placed.forEach(({ parent }, k) => {
      if (parent === at) pending.push(k);
    });
  }
  return order;
}

interface LinePlace {
  readonly line: number;
  readonly version: number;
}

/** The main line leads to the newest copy; what leaves it is a line of its own. */
function linesOf(copies: readonly Copy[], placed: readonly Placed[]): LinePlace[] {
  const children = placed.map((_, k) => placed.flatMap(({ parent }, child) => (parent === k ? [child] : [])));
  const newest = (k: number): number => Math.max(copies[k]?.at ?? 0, ...(children[k] as number[]).map(newest));
  const depth = (k: number): number => 1 + Math.max(0, ...(children[k] as number[]).map(depth));
  const places = new Array<LinePlace>(copies.length);
  let lines = 0;
  const pending: [copy: number, line: number, version: number][] = [
    [placed.findIndex(({ parent }) => parent < 0), 0, 1],
  ];
  for (let next = pending.shift(); next; next = pending.shift()) {
    const [copy, line, version] = next;
    places[copy] = { line, version };
    const [first, ...others] = [...(children[copy] as number[])].sort(
      (a, b) => newest(b) - newest(a) || depth(b) - depth(a),
    );
    if (first !== undefined) pending.push([first, line, version + 1]);
    for (const other of others) pending.push([other, ++lines, version + 1]);
  }
  return places;
}

/** The name that most copies have without their marks. */
function cleanName(group: readonly Named[]): string {
  const counts = new Map<string, number>();
  for (const { name } of group) {
    const clean = `${name.stem.replaceAll(' ', '-') || 'file'}${name.ending}`;
    counts.set(clean, (counts.get(clean) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1] || a[0].length - b[0].length)[0]?.[0] ?? 'file';
}

const baseName = (path: string): string => path.split('/').at(-1) ?? path;

/** Names that say something else than the contents do. */
function remarksOn(copies: readonly Copy[], placed: readonly Placed[], lines: readonly LinePlace[]): string[] {
  const mainLine = copies.map((_, k) => k).filter((k) => lines[k]?.line === 0);
  const last = mainLine.reduce(
    (a, b) => ((lines[b]?.version ?? 0) > (lines[a]?.version ?? 0) ? b : a),
    mainLine[0] ?? 0,
  );
  const saidLast = (k: number): number => (copies[k]?.name.isLast ? 10_000 : 0) + (copies[k]?.name.number ?? 0);
  const remarks: string[] = [];
  for (const k of copies.keys()) {
    if (k === last || saidLast(k) <= saidLast(last) || !isAncestor(placed, k, last)) continue;
    const [own, newest] = [copies[k] as Copy, copies[last] as Copy];
    remarks.push(
      `${baseName(own.path)} is older than ${baseName(newest.path)}: what is new in ${baseName(newest.path)} is missing from it.`,
    );
  }
  return remarks;
}

function isAncestor(placed: readonly Placed[], older: number, newer: number): boolean {
  for (let at = placed[newer]?.parent ?? -1; at >= 0; at = placed[at]?.parent ?? -1) if (at === older) return true;
  return false;
}
