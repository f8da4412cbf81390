/** The parts of a model, or of two, in groups that people look for. Pure. */
import type { Change } from '@ovrel/core/contract';
import type { Space, SpacePart } from '@ovrel/core/space';

export const groupings = ['storey', 'category', 'assembly', 'type', 'kind'] as const;
export type Grouping = (typeof groupings)[number];

/** A part of B, or one that only A has; A's side of what changed goes with B's. */
export interface TreePart {
  readonly side: 'a' | 'b';
  readonly index: number;
  readonly name: string;
  /** Names of it on both sides, as things to hide. */
  readonly keys: readonly string[];
  readonly change: Change | undefined;
}

export interface TreeGroup {
  readonly name: string;
  readonly parts: readonly TreePart[];
  readonly changed: number;
}

const keyOf = (side: 'a' | 'b', index: number): string => `${side}${index}`;

const titles: Readonly<Record<Exclude<Grouping, 'category'>, string>> = {
  storey: 'storey',
  assembly: 'assembly',
  type: 'type',
  kind: 'kind',
};
/** `category` is what the format calls one of the groups that its parts are sorted into. */
export const titleOf = (grouping: Grouping, category = 'group'): string =>
  grouping === 'category' ? category : titles[grouping];

function groupOf(grouping: Grouping, part: SpacePart, pages: readonly string[]): string {
  switch (grouping) {
    case 'storey':
      return pages[part.page] ?? '';
    case 'category':
      return part.category || 'none';
    case 'assembly':
      return part.parents.join(' › ') || 'by itself';
    case 'type':
      return String(part.props['type'] ?? 'none');
    case 'kind':
      return part.kind;
  }
}

/** Those that tell parts apart; none of a model of one part. */
export function groupingsOf({ head }: Space): Grouping[] {
  return groupings.filter((grouping) => {
    const found = new Set(head.parts.map((part) => groupOf(grouping, part, head.pages)));
    return found.size > 1;
  });
}

/** Parts that have a surface, by group, in the order of the model; storeys from the top. */
export function treeOf(
  grouping: Grouping,
  b: Space,
  a: Space | undefined,
  changes: readonly Change[],
): readonly TreeGroup[] {
  const ofB = new Map<number, Change>();
  const gone: Change[] = [];
  for (const change of changes) {
    if (change.material !== undefined) continue;
    if (change.partB?.index !== undefined) ofB.set(change.partB.index, change);
    else if (change.partA?.index !== undefined) gone.push(change);
  }
  const groups = new Map<string, TreePart[]>();
  const put = (name: string, part: TreePart): void => {
    const known = groups.get(name);
    if (known) known.push(part);
    else groups.set(name, [part]);
  };
  if (grouping === 'storey') for (const name of [...b.head.pages].reverse()) groups.set(name, []);
  b.head.parts.forEach((part, index) => {
    if (part.mesh < 0) return;
    const change = ofB.get(index);
    const before = change?.partA?.index;
    const keys = [keyOf('b', index), ...(before === undefined ? [] : [keyOf('a', before)])];
    put(groupOf(grouping, part, b.head.pages), { side: 'b', index, name: part.name, keys, change });
  });
  for (const change of gone) {
    const index = change.partA?.index ?? -1;
    const part = a?.head.parts[index];
    if (!a || !part || part.mesh < 0) continue;
    const keys = [keyOf('a', index)];
    put(groupOf(grouping, part, a.head.pages), { side: 'a', index, name: part.name, keys, change });
  }
  return [...groups]
    .filter(([, parts]) => parts.length > 0)
    .map(([name, parts]) => ({ name, parts, changed: parts.filter(({ change }) => change).length }));
}

/** What is hidden where only some are to be seen. */
export function hiddenBut(groups: readonly TreeGroup[], isSeen: (part: TreePart) => boolean): ReadonlySet<string> {
  const hidden = new Set<string>();
  for (const { parts } of groups)
    for (const part of parts) if (!isSeen(part)) for (const key of part.keys) hidden.add(key);
  return hidden;
}
