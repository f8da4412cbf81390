/** Clashes as people are told of them. */
import type { Choice, ClashSide, ToldClash } from '../contract/joining.ts';
import { partSummary } from '../kinds/drawing/part-summary.ts';
import type { JoinOptions } from './joined.ts';
import { nodeAt, partsWithin, type Side } from './side.ts';
import type { Clash } from './three-way.ts';

export function tellClash(
  clash: Clash,
  [base, ours, theirs]: readonly [base: Side, ours: Side, theirs: Side],
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
