/** Storeys that were raised or lowered: one cause with all that stands on them. */
import type { CauseDraft } from '../../causes/draft.ts';
import type { Solid } from '../../model/solid.ts';
import type { ComparedDesigns } from '../drawing/compare.ts';

/** Share of what went along that must stand on the storeys. */
const NEARLY = 0.9;

type Compared = Pick<ComparedDesigns, 'changes' | 'causes' | 'parts' | 'tolerance'>;

interface Raised {
  readonly name: string;
  readonly page: number;
  readonly by: number;
  /** The change that says so of the storey itself. */
  readonly change: number;
}

export function withStoreys(a: Solid, b: Solid, compared: Compared): readonly CauseDraft[] {
  const raised = raisedStoreys(a, b, compared);
  if (raised.length === 0) return compared.causes;
  const slack = 8 * compared.tolerance;
  const told = new Set<number>();
  const causes = compared.causes.map((cause): CauseDraft => {
    const by = rise(cause, slack);
    if (by === undefined) return cause;
    const along = raised.filter((storey) => Math.abs(storey.by - by) <= slack);
    const pages = new Set(along.map(({ page }) => page));
    const standing = cause.changes.filter((k) => pages.has(b.parts[compared.parts[k]?.[1] ?? -1]?.page ?? -1));
    if (along.length === 0 || standing.length < NEARLY * cause.changes.length) return cause;
    for (const { change } of along) told.add(change);
    const values = {
      storeys: along.map(({ name }) => name),
      by,
      parts: cause.changes.length,
      unit: b.origin.units ?? '',
    };
    return {
      ...cause,
      saying: { code: 'storey-raised', values },
      changes: [...cause.changes, ...along.map(({ change }) => change)],
      parts: cause.changes.length,
    };
  });
  return causes.filter((cause) => !isToldOf(cause, told, compared));
}

/** A cause that says no more than the new heights of these storeys. */
const isToldOf = (cause: CauseDraft, told: ReadonlySet<number>, { changes }: Compared): boolean =>
  cause.saying.code !== 'storey-raised' &&
  cause.changes.length > 0 &&
  cause.changes.every((k) => told.has(k) && changes[k]?.what.every(({ property }) => property === ELEVATION));

const ELEVATION = 'elevation';

function raisedStoreys(a: Solid, b: Solid, { changes, parts }: Compared): Raised[] {
  return changes.flatMap((change, k) => {
    if (change.part.kind !== 'storey' || change.kind !== 'changed') return [];
    const [i, j] = parts[k] ?? [-1, -1];
    const [from, to] = [a.parts[i]?.props[ELEVATION], b.parts[j]?.props[ELEVATION]];
    if (typeof from !== 'number' || typeof to !== 'number' || from === to) return [];
    return [{ name: change.part.name, page: b.parts[j]?.page ?? -1, by: to - from, change: k }];
  });
}

/** How far a cause says that things went straight up; negative downwards. */
function rise({ saying }: CauseDraft, slack: number): number | undefined {
  if (saying.code !== 'moved' || saying.values.how !== 'moved') return undefined;
  const { dx = 0, dy = 0, dz = 0 } = saying.values.by ?? {};
  return Math.abs(dx) <= slack && Math.abs(dy) <= slack && Math.abs(dz) > slack ? dz : undefined;
}
