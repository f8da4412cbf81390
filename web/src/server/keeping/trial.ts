/** Keeping rules tried on the past of a project, before they hold. */
import { proposeRule, tryOnPast, type KeepingRule, type KindId } from '@ovrel/core';
import type { z } from 'zod';
import type { Person } from '../../contract/api.ts';
import type { trialAskedSchema, TrialResult } from '../../contract/keeping.ts';
import { db } from '../db/pool.ts';
import { scopeIn } from '../people/access.ts';
import { loadKept, namedBy, type LoadedFile } from './kept.ts';
import { wentBackRows } from './rows.ts';
import { kindOfFormat, rulesIn, type Rules } from './rules.ts';

const DAY = 86_400_000;
const iso = (at: number): string => new Date(at).toISOString();

/** As if the rule had been said there from the beginning; what nearer places say otherwise stays so. */
export async function tryKeeping(
  by: Person,
  projectId: string,
  { folder, content, rule }: z.output<typeof trialAskedSchema>,
): Promise<TrialResult> {
  const scope = await scopeIn(by, 'see old versions', projectId);
  const loaded = (await loadKept(db(), { project: projectId })).filter(({ place }) =>
    scope.has(projectId, place.folder),
  );
  const would = (await rulesIn(db(), projectId)).with(folder ?? null, content ?? null, rule);
  const { decided = [], others = [] } = Object.groupBy(loaded, (file) =>
    decides(would, file, folder ?? null, content ?? null) ? 'decided' : 'others',
  );
  const rows = new Map(decided.flatMap((file) => file.rows.map((row) => [row.id, row] as const)));
  const back = (await wentBackRows(db(), projectId))
    .filter(({ version_id: version }) => rows.has(version))
    .map((row) => ({ ...row, version: row.version_id, at: row.at.getTime() }));
  const now = Date.now();
  const withRule = (tried: KeepingRule): LoadedFile[] => decided.map((file) => ({ ...file, rule: tried }));
  const tried = tryOnPast(withRule(rule), back, now, others);
  const proposed = proposeRule(decided, back, now, others);
  return {
    versions: tried.versions,
    gone: tried.gone.size,
    wentBack: tried.wentBack,
    missed: tried.missed.flatMap(({ back: one, gone }) => {
      const row = rows.get(one.version);
      return row ? [{ ...namedBy(row), by: one.by, how: one.how, at: iso(one.at), gone: iso(gone) }] : [];
    }),
    days: tried.days.map(({ at, ...bytes }) => ({ at: iso(at), ...bytes })),
    going: [...Map.groupBy(tried.gone.values(), (at) => Math.floor(at / DAY))]
      .sort(([a], [b]) => a - b)
      .map(([day, of]) => ({ at: iso(day * DAY), versions: of.length })),
    proposed,
    proposedGone: tryOnPast(withRule(proposed), back, now, others).gone.size,
  };
}

/** Whether what is said at a place of a kind is what decides of a file. */
function decides(would: Rules, { place }: LoadedFile, folder: string | null, content: KindId | null): boolean {
  const found = would.at(place.folder, kindOfFormat(place.format));
  return found?.folder_id === folder && found.content === content;
}
