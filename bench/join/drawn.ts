/** Who drew what, against histories of which it is known: who put each part in, and who changed it last. */
import { defaultLimits, drawnFirst, drawnNext, kindOf, type Design, type DrawnBy } from '@ovrel/core';
import { readDxf } from '../../core/src/formats/dxf/read.ts';
import { readSvg } from '../../core/src/formats/svg/read.ts';
import { owners, write, type Drawing, type Item } from '../accuracy/drawing.ts';
import { randomFrom, withoutIds, type Random } from '../accuracy/scripts.ts';
import { line } from '../measure.ts';
import { twoSides } from './edits.ts';

const VERSIONS = 10;
const EDITS = 3;
const SEEDS = 8;

interface Known {
  readonly drawing: Drawing;
  /** For each item the versions that touched it. */
  readonly stories: readonly (readonly number[])[];
}

/** Versions one after the other, each with what is known of its items. */
function history(base: Drawing, random: Random): Known[] {
  const numbered = (items: readonly Item[]): Item[] => items.map((item, from) => ({ ...item, from }));
  let items = numbered(base.items);
  let stories: (readonly number[])[] = items.map(() => [0]);
  const made: Known[] = [{ drawing: { ...base, items }, stories }];
  for (let version = 1; version < VERSIONS; version++) {
    const edited = twoSides({ ...base, items }, random, EDITS, 0).ours.items;
    stories = edited.map(({ from, source }) => {
      const before = stories[from] ?? [];
      if (from < 0) return [version];
      return source === items[from]?.source ? before : [...before, version];
    });
    items = numbered(edited);
    made.push({ drawing: { ...base, items }, stories });
  }
  return made;
}

const read = (d: Drawing): Design => (d.format === 'dxf' ? readDxf : readSvg)(write(d), defaultLimits);

/** Parts of the last version of which the first and the last version are right, of how many. */
function rightIn(versions: readonly Known[], written: (d: Drawing) => Drawing): readonly [right: number, all: number] {
  let drawn: DrawnBy | undefined;
  let before: Design | undefined;
  let last: Drawing | undefined;
  versions.forEach(({ drawing }, k) => {
    last = written(drawing);
    const design = read(last);
    const step = before && kindOf('drawing').step?.(before, design, {});
    drawn =
      drawn && before && step
        ? drawnNext({ version: `v${k - 1}`, drawn, design: before }, step, { version: `v${k}`, design })
        : drawnFirst(`v${k}`, design);
    before = design;
  });
  const known = versions.at(-1);
  if (!drawn || !before || !last || !known) return [0, 0];
  const said = drawn;
  const own = owners(last, before);
  const versionOf = (k: number | undefined): number => Number((said.versions[k ?? -1] ?? 'v-1').slice(1));
  const right = own.reduce((n, item, part) => {
    const truth = known.stories[item] ?? [];
    const story = said.parts[part] ?? [];
    const isRight = versionOf(story[0]) === truth[0] && versionOf(story.at(-1)) === truth.at(-1);
    return n + (isRight ? 1 : 0);
  }, 0);
  return [right, own.length];
}

export function benchDrawnBy(drawings: readonly Drawing[]): void {
  for (const [ids, goal] of [
    ['kept', 0.99],
    ['destroyed at every save', 0.97],
  ] as const) {
    let [right, all] = [0, 0];
    for (const drawing of drawings) {
      for (let seed = 1; seed <= SEEDS; seed++) {
        const random = randomFrom(seed * 104_729 + drawing.name.length);
        const found = rightIn(history(drawing, random), (d) => (ids === 'kept' ? d : withoutIds(d, random)));
        right += found[0];
        all += found[1];
      }
    }
    line(`drawn by, ids ${ids}: first and last version of a part right`, (right / all).toFixed(4), `goal ≥ ${goal}`);
  }
}
