/** ovrel desk: a folder of one's own computer against a project. */
import { mkdirSync } from 'node:fs';
import { hostname } from 'node:os';
import { dirname, join, relative, resolve, sep } from 'node:path';
import { parseArgs } from 'node:util';
import { deskStatus, guesses, type DeskStatus } from '@ovrel/core';
import { Api, Refused, type DeskFile } from './api.ts';
import { Changed } from './form.ts';
import { gettingBack, gettingBackUsage } from './getting-back.ts';
import { milliseconds, watch } from './watch.ts';
import {
  deskFolder,
  filesIn,
  localHash,
  NoDesk,
  notesOf,
  readState,
  writeState,
  type State,
  inTheWay,
} from './folder.ts';

export const deskUsage = `  ovrel desk connect ADDRESS PROJECT           make this folder a desk of a project
  ovrel desk status [PATH ...] [--json]        where the files here stand
  ovrel desk get [PATH ...] [--version N] [--replace]
                                               the newest versions, or version N of one file
  ovrel desk checkout PATH ... [--where TEXT]  take the right to change files: all, or none
  ovrel desk goon PATH --version N [--replace] check out, and go on from an older version
  ovrel desk checkin PATH ... --note TEXT [--keep] [--new]
                                               give them back with what changed, as one set
  ovrel desk release PATH ...                  give them back unchanged
  ovrel desk watch [--quiet 2s] [--backup-every 60m] [--once]
                                               each save in this folder becomes a version
${gettingBackUsage}

The desk takes its access token from OVREL_TOKEN; make one on the page "Desk".`;

interface Row {
  readonly path: string;
  readonly status: DeskStatus;
  readonly file: DeskFile | undefined;
  readonly sha256: string | undefined;
  /** The version that the file here was taken from. */
  readonly base: number | undefined;
  /** An unknown file that may be this one, moved or renamed. */
  readonly perhaps: string | undefined;
}

type Print = (text: string) => Promise<void>;

/** Gives the exit code: 0 done, 1 something is not as the newest (status), 2 refused, with a sentence. */
export async function desk(argv: readonly string[], print: Print): Promise<number> {
  try {
    return await run(argv, print);
  } catch (error) {
    if (!(
      error instanceof Refused ||
      error instanceof NoDesk ||
      error instanceof Changed ||
      (error as { code?: string }).code?.startsWith('ERR_PARSE_ARGS')
    ))
      throw error;
    console.error((error as Error).message);
    return 2;
  }
}

async function run(argv: readonly string[], print: Print): Promise<number> {
  const [command = '', ...rest] = argv;
  const { values, positionals } = parseArgs({
    args: rest,
    allowPositionals: true,
    options: {
      json: { type: 'boolean' },
      version: { type: 'string' },
      replace: { type: 'boolean' },
      note: { type: 'string' },
      keep: { type: 'boolean' },
      new: { type: 'boolean' },
      where: { type: 'string' },
      name: { type: 'string' },
      from: { type: 'string' },
      prefer: { type: 'string' },
      file: { type: 'boolean' },
      yes: { type: 'boolean' },
      quiet: { type: 'string' },
      'backup-every': { type: 'string' },
      once: { type: 'boolean' },
    },
  });
  const token = process.env['OVREL_TOKEN'];
  if (!token) throw new Refused('OVREL_TOKEN is not set. Make an access token on the page "Desk", and put it there.');
  if (command === 'connect') return connect(positionals, token, print);
  const act = Object.hasOwn(gettingBack, command) ? gettingBack[command] : undefined;
  if (command === 'watch') return watching(values, token, print);
  if (!act && !['status', 'get', 'checkout', 'goon', 'checkin', 'release'].includes(command))
    throw new Refused(`ovrel desk does not know “${command}”.\n\n${deskUsage}`);
  const folder = deskFolder(process.cwd());
  const state = readState(folder);
  const api = new Api(state.address, token, notesOf(folder));
  const wanted = positionals.map((p) => pathBelow(folder, p));
  const rows = await look(folder, state, api);
  const chosen = choose(rows, wanted);
  if (act) {
    const [of, ...more] = known(chosen, wanted);
    if (!of || more.length > 0) throw new Refused(`ovrel desk ${command} takes one file.`);
    return act(api, of, values, print);
  }
  switch (command) {
    case 'status':
      return status(chosen, values.json === true, print);
    case 'get':
      return get(folder, state, api, chosen, values, print);
    case 'checkout': {
      const files = known(chosen, wanted);
      await api.checkOut(
        files.map((f) => f.fileId),
        values.where ?? `${hostname()}: ${folder}`,
      );
      await print(`Checked out: ${files.map((f) => f.path).join(', ')}.`);
      return 0;
    }
    case 'goon':
      return goOn(folder, state, api, chosen, values, print);
    case 'release': {
      const { givenUp } = await api.giveUp(known(chosen, wanted).map((f) => f.fileId));
      await print(`${givenUp} given back. What you changed here is still here.`);
      return 0;
    }
    default:
      return checkIn(folder, state, api, chosen, wanted, values, print);
  }
}

async function watching(
  { quiet, 'backup-every': every, once }: { quiet?: string; 'backup-every'?: string; once?: boolean },
  token: string,
  print: Print,
): Promise<number> {
  const folder = deskFolder(process.cwd());
  const ending = new AbortController();
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => ending.abort());
  const how = {
    quiet: milliseconds(quiet ?? '2s'),
    backupEvery: every === undefined ? undefined : milliseconds(every),
    once: once === true,
    signal: ending.signal,
  };
  return watch(folder, new Api(readState(folder).address, token, notesOf(folder)), how, print);
}

async function connect([address, project]: readonly string[], token: string, print: Print): Promise<number> {
  if (!address || !project || !URL.canParse(address))
    throw new Refused(
      'Say: ovrel desk connect ADDRESS PROJECT, such as: ovrel desk connect http://ovrel.example:3000 "Ferry landing"',
    );
  const api = new Api(address, token);
  const { person } = await api.me();
  const all = await api.projects();
  const found = all.find((p) => p.id === project) ?? all.find((p) => p.name.toLowerCase() === project.toLowerCase());
  if (!found)
    throw new Refused(`There is no project “${project}” there. There are: ${all.map((p) => p.name).join(', ')}.`);
  writeState(process.cwd(), { address, project: { id: found.id, name: found.name }, bases: {}, hashes: {} });
  await print(
    `This folder is a desk of “${found.name}” now, for ${person.name}. “ovrel desk get” brings the newest versions.`,
  );
  return 0;
}

function pathBelow(folder: string, given: string): string {
  const path = relative(folder, resolve(given));
  if (path.startsWith('..')) throw new Refused(`${given} lies outside of the desk ${folder}.`);
  return path.split(sep).join('/');
}

/** Every file of the project and of the folder. */
async function look(folder: string, state: State, api: Api): Promise<Row[]> {
  const files = await api.files(state.project.id);
  const byPath = new Map(files.map((f) => [f.path, f]));
  const rows: Row[] = [];
  const local = new Map<string, string>();
  for (const path of filesIn(folder)) local.set(path, await localHash(folder, path, state));
  for (const path of Object.keys(state.hashes)) if (!local.has(path)) Reflect.deleteProperty(state.hashes, path);
  await findBases(state, api, files, local);
  writeState(folder, state);
  const unknown = [...local].filter(([path]) => !byPath.has(path)).map(([path, hash]) => ({ path, hash }));
  const missing = files
    .filter((f) => !local.has(f.path))
    .map((f) => ({ fileId: f.fileId, path: f.path, hash: state.bases[f.path]?.sha256 ?? f.newest.sha256 }));
  const guessed = new Map(
    guesses(unknown, missing).map((g) => [g.path, files.find((f) => f.fileId === g.fileId)?.path]),
  );
  for (const path of new Set([...byPath.keys(), ...local.keys()])) {
    const file = byPath.get(path);
    const sha256 = local.get(path);
    const base = state.bases[path];
    rows.push({
      path,
      file,
      sha256,
      base: base?.number,
      perhaps: guessed.get(path),
      status: deskStatus({
        here: sha256,
        base: base?.fileId === file?.fileId ? base?.sha256 : undefined,
        newest: file?.newest.sha256,
      }),
    });
  }
  return rows.sort((a, b) => a.path.localeCompare(b.path));
}

/** Asked about in one go. */
const MOST_ASKED = 2000;

/**
 * Contents that came here by other ways: what is the newest version was taken from that, and older versions are known
 * as such.
 */
async function findBases(
  state: State,
  api: Api,
  files: readonly DeskFile[],
  local: ReadonlyMap<string, string>,
): Promise<void> {
  const open = new Map<string, { fileId: string; sha256: string }>();
  for (const { path, fileId, newest } of files) {
    const sha256 = local.get(path);
    const base = state.bases[path];
    if (sha256 === newest.sha256) state.bases[path] = { fileId, versionId: newest.id, number: newest.number, sha256 };
    else if (sha256 !== undefined && base?.fileId !== fileId) open.set(path, { fileId, sha256 });
  }
  const asked = [...open].slice(0, MOST_ASKED);
  const found = asked.length
    ? await api.known(
        state.project.id,
        asked.map(([, a]) => a),
      )
    : [];
  for (const [path, { fileId, sha256 }] of asked) {
    const version = found.find((k) => k.fileId === fileId && k.sha256 === sha256);
    if (version) state.bases[path] = version;
  }
}

/** The rows of paths, or of everything below folders; all where none is named. */
function choose(rows: readonly Row[], wanted: readonly string[]): Row[] {
  if (!wanted.length || wanted.includes('')) return [...rows];
  return wanted.flatMap((path) => {
    const found = rows.filter((r) => r.path === path || r.path.startsWith(`${path}/`));
    if (!found.length) throw new Refused(`There is no ${path}, neither here nor in the project.`);
    return found;
  });
}

/** Acts that change something want to be told what to act on. */
function known(rows: readonly Row[], wanted: readonly string[]): DeskFile[] {
  if (!wanted.length) throw new Refused('Say which files.');
  const files = rows.flatMap((r) => r.file ?? []);
  if (!files.length) throw new Refused(`${wanted.join(', ')}: Ovrel has no such file yet. Check it in with --new.`);
  return files;
}

function sayVersions(base: number | undefined, newest: number): string {
  return base === undefined || base === newest ? `v${newest}` : `from v${base}, newest v${newest}`;
}

async function status(rows: readonly Row[], json: boolean, print: Print): Promise<number> {
  if (json) {
    await print(
      JSON.stringify(
        rows.map((r) => ({
          path: r.path,
          status: r.status,
          base: r.base ?? null,
          newest: r.file?.newest.number ?? null,
          holder: r.file?.holder?.name ?? null,
          perhaps: r.perhaps ?? null,
        })),
        null,
        2,
      ),
    );
  } else {
    for (const r of rows) {
      const more = [
        r.file ? sayVersions(r.base, r.file.newest.number) : '',
        r.file?.holder ? `checked out by ${r.file.holder.name}` : '',
        r.perhaps ? `perhaps ${r.perhaps}, moved or renamed` : '',
      ];
      await print(`${r.status.padEnd(20)} ${r.path}  ${more.filter(Boolean).join('; ')}`.trimEnd());
    }
  }
  return rows.every((r) => r.status === 'same as newest') ? 0 : 1;
}

async function get(
  folder: string,
  state: State,
  api: Api,
  rows: readonly Row[],
  { version, replace = false }: { version?: string | undefined; replace?: boolean | undefined },
  print: Print,
): Promise<number> {
  if (version !== undefined && (rows.length !== 1 || !rows[0]?.file || !/^v?[1-9]\d*$/.test(version)))
    throw new Refused('With --version, name one file of the project and a number: ovrel desk get PATH --version 3');
  const kept: string[] = [];
  const refused: string[] = [];
  let brought = 0;
  for (const row of rows) {
    const { file, path } = row;
    if (!file) continue;
    const target =
      version === undefined ? file.newest : await api.version(file.fileId, Number(version.replace('v', '')));
    if (row.sha256 !== target.sha256) {
      // What was changed here is never replaced unasked.
      if ((row.status === 'changed here' || row.status === 'changed on both') && !replace) {
        kept.push(path);
        continue;
      }
      const why = inTheWay(folder, path);
      if (why) {
        refused.push(`${path}, because ${why}`);
        continue;
      }
      mkdirSync(dirname(join(folder, path)), { recursive: true });
      const base = state.bases[path];
      await api.fetchTo(join(folder, path), target, base && { id: base.versionId, sha256: base.sha256 });
      brought++;
    }
    state.bases[path] = { fileId: file.fileId, versionId: target.id, number: target.number, sha256: target.sha256 };
    writeState(folder, state);
  }
  await print(brought === 1 ? '1 file brought.' : `${brought} files brought.`);
  const left = kept.length === 1 ? 'it is' : 'they are';
  const said = [
    kept.length > 0 &&
      `Changed here, so left as ${left}: ${kept.join(', ')}. Say --replace to have the other version instead.`,
    ...refused.map((one) => `Not written: ${one}.`),
  ].filter((sentence) => sentence !== false);
  if (said.length === 0) return 0;
  throw new Refused(said.join('\n'));
}

/**
 * One step: the right to change the file, and the content of an older version, from which the next check-in makes the
 * newest.
 */
async function goOn(
  folder: string,
  state: State,
  api: Api,
  rows: readonly Row[],
  {
    version = '',
    replace = false,
    where,
  }: { version?: string | undefined; replace?: boolean | undefined; where?: string | undefined },
  print: Print,
): Promise<number> {
  const [row] = rows;
  if (rows.length !== 1 || !row?.file || !/^v?[1-9]\d*$/.test(version))
    throw new Refused('Name one file of the project and a number: ovrel desk goon PATH --version 3');
  if ((row.status === 'changed here' || row.status === 'changed on both') && !replace)
    throw new Refused(
      `${row.path} is changed here. Check it in first, or say --replace to have v${version.replace('v', '')} instead.`,
    );
  const why = inTheWay(folder, row.path);
  if (why) throw new Refused(`${row.path} is not written, because ${why}.`);
  const source = await api.version(row.file.fileId, Number(version.replace('v', '')));
  await api.checkOut([row.file.fileId], where ?? `${hostname()}: ${folder}`, source.id);
  mkdirSync(dirname(join(folder, row.path)), { recursive: true });
  await api.fetchTo(join(folder, row.path), source);
  // Seen from here, the newest version is what this one will follow.
  state.bases[row.path] = {
    fileId: row.file.fileId,
    versionId: row.file.newest.id,
    number: row.file.newest.number,
    sha256: row.file.newest.sha256,
  };
  writeState(folder, state);
  await print(
    `${row.path} is checked out and has the content of v${source.number}. What you check in will be v${row.file.newest.number + 1}, with v${source.number} as its source.`,
  );
  return 0;
}

async function checkIn(
  folder: string,
  state: State,
  api: Api,
  rows: readonly Row[],
  wanted: readonly string[],
  {
    note = '',
    keep = false,
    new: fresh = false,
  }: { note?: string | undefined; keep?: boolean | undefined; new?: boolean | undefined },
  print: Print,
): Promise<number> {
  if (!wanted.length) throw new Refused('Say which files to check in.');
  const unknown = rows.filter((r) => !r.file && r.sha256 !== undefined);
  if (unknown.length && !fresh)
    throw new Refused(
      `Not in Ovrel yet: ${unknown.map((r) => r.path).join(', ')}. Say --new to make new files of them.`,
    );
  const sent = rows.filter((r) => r.sha256 !== undefined);
  if (!sent.length) throw new Refused('None of these files is here.');
  const both = sent.filter((r) => r.status === 'changed on both' || r.status === 'newer on the server');
  if (both.length)
    throw new Refused(
      `Newer on the server: ${both.map((r) => r.path).join(', ')}. Look at what changed there first; “ovrel desk get” brings it.`,
    );
  const folders = unknown.length ? await api.folders(state.project.id) : [];
  const plan = sent.map((r) => ({
    path: join(folder, r.path),
    name: r.path.slice(r.path.lastIndexOf('/') + 1),
    plan: r.file
      ? { fileId: r.file.fileId, base: r.file.newest.id, keep }
      : { name: r.path.slice(r.path.lastIndexOf('/') + 1), folderId: folderOf(folders, r.path) },
  }));
  const result = await api.checkIn(state.project.id, note, plan);
  const now = new Map((await api.files(state.project.id)).map((f) => [f.path, f]));
  for (const { path, sha256 = '' } of sent) {
    const file = now.get(path);
    const made = result.set?.files.find((f) => f.fileId === file?.fileId);
    if (!file) continue;
    // Somebody may have checked in again since: what is here was taken from what was sent.
    state.bases[path] =
      made?.versionId && made.versionId !== file.newest.id
        ? { fileId: file.fileId, versionId: made.versionId, number: made.version ?? 0, sha256 }
        : { fileId: file.fileId, versionId: file.newest.id, number: file.newest.number, sha256: file.newest.sha256 };
  }
  writeState(folder, state);
  await print(
    [result.sentence, ...result.hints, ...(result.same.length ? [`Not changed: ${result.same.join(', ')}.`] : [])].join(
      '\n',
    ),
  );
  return 0;
}

function folderOf(
  folders: readonly { id: string; parentId: string | null; name: string }[],
  path: string,
): string | null {
  let parent: string | null = null;
  for (const name of path.split('/').slice(0, -1)) {
    const found: { id: string } | undefined = folders.find(
      (f) => f.parentId === parent && f.name.toLowerCase() === name.toLowerCase(),
    );
    if (!found) throw new Refused(`The project has no folder for ${path}. Make the folder “${name}” there first.`);
    parent = found.id;
  }
  return parent;
}
