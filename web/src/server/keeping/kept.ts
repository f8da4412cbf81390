/** Versions as keeping rules see them, and what becomes of them. */
import { fates, type Fate, type KeepingRule, type KeptVersion, type PastVersion } from '@ovrel/core';
import type { Db } from '../db/pool.ts';
import { filesOfSets, holdRows, keptRows, type HoldRow, type KeptRow, type Which } from './rows.ts';
import { kindOfFormat, rulesIn, type Rules } from './rules.ts';

/** More files that are looked at to find out about some: what was checked in with others still stays. */
const MOST_FILES = 300;

export interface LoadedFile {
  readonly id: string;
  /** Where it lies, and what its newest version is: by these its rule is found. */
  readonly place: { readonly folder: string | null; readonly format: string | null };
  readonly rows: readonly KeptRow[];
  readonly versions: readonly PastVersion[];
  /** Milliseconds without a save that end a sitting. */
  readonly pause: number;
  readonly rule: KeepingRule;
}

/** Rules of projects as they are asked for. */
class KnownRules {
  private readonly client: Db;
  private readonly known = new Map<string, Promise<Rules>>();

  constructor(client: Db) {
    this.client = client;
  }

  of(projectId: string): Promise<Rules> {
    const rules = this.known.get(projectId) ?? rulesIn(this.client, projectId);
    this.known.set(projectId, rules);
    return rules;
  }
}

/** Files with all their versions, and what holds for each file: the rule of the kind that its newest version is of. */
export async function loadKept(client: Db, which: Which): Promise<LoadedFile[]> {
  const rows = await keptRows(client, which);
  const holds = Map.groupBy(await holdRows(client, which), (row) => row.version_id);
  const rules = new KnownRules(client);
  return Promise.all(
    [...Map.groupBy(rows, (row) => row.file_id)].map(async ([id, of]) => {
      const { project_id: project, sitting_pause: minutes, folder_id: folder, format } = newestIn(of);
      return {
        id,
        place: { folder, format },
        rows: of,
        versions: of.map((row) => keptOf(row, holds.get(row.id) ?? [])),
        pause: minutes * 60_000,
        rule: (await rules.of(project)).ruleAt(folder, kindOfFormat(format)),
      };
    }),
  );
}

function newestIn(rows: readonly KeptRow[]): KeptRow {
  const newest = rows.findLast((row) => row.line_position === 0) ?? rows.at(-1);
  if (!newest) throw new Error('a file without versions was looked at');
  return newest;
}

function keptOf(row: KeptRow, holds: readonly HoldRow[]): PastVersion {
  const title: KeptVersion['holds'] =
    row.title === null ? [] : [{ hold: 'keeper', since: (row.titled_at ?? row.made_at).getTime() }];
  return {
    id: row.id,
    line: row.line_id,
    number: row.number,
    kind: row.kind,
    at: row.made_at.getTime(),
    person: row.by_id,
    set: row.set_id,
    together: row.together,
    title: row.title,
    holds: [...title, ...holds.map(({ hold, since }) => ({ hold, since: since.getTime() }))],
    content: row.content_id,
    bytes: Number(row.bytes),
  };
}

/** Files, with all others that something of them that may go was checked in with. */
export async function loadWithOthers(client: Db, fileIds: readonly string[]): Promise<LoadedFile[]> {
  const most = fileIds.length + MOST_FILES;
  let files = [...fileIds];
  for (;;) {
    const loaded = await loadKept(client, { files });
    const needed = await filesOfSets(client, setsAcross(loaded));
    const all = [...new Set([...files, ...needed])];
    if (all.length === files.length || all.length > most) return loaded;
    files = all;
  }
}

/** Sets of which a version may go by its own rule, and that others belong to as well. */
function setsAcross(files: readonly LoadedFile[]): string[] {
  return files.flatMap(({ versions, rule, pause }) => {
    const alone = versions.map((version) => ({ ...version, together: 1, set: version.id }));
    const fate = fates([{ rule, pause, versions: alone }]);
    return versions
      .filter((one) => one.together > 1 && (fate.get(one.id)?.goes ?? null) !== null)
      .map(({ set }) => set);
  });
}

export const fatesOf = (files: readonly LoadedFile[]): Map<string, Fate> => fates(files);

/** Bytes of contents that only these versions have, among those that were looked at. */
export function bytesOnlyOf(files: readonly LoadedFile[], going: ReadonlySet<string>): number {
  const contents = Map.groupBy(
    files.flatMap((file) => file.versions),
    ({ content }) => content,
  );
  return [...contents.values()]
    .filter((of) => of.every(({ id }) => going.has(id)))
    .reduce((sum, [first]) => sum + (first?.bytes ?? 0), 0);
}

/** A version as people are told of it. */
export const namedBy = (row: KeptRow): { versionId: string; number: number; fileId: string; file: string } => ({
  versionId: row.id,
  number: row.number,
  fileId: row.file_id,
  file: row.file,
});
