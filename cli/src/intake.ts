/** ovrel intake: what a folder of old copies is, as histories; a plan, without a server. */
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { Api, Refused } from './desk/api.ts';
import { intakePlan, lookAtCopy, type FoundCopy, type IntakePlan, type PlannedFile } from '@ovrel/core';

export const intakeUsage = `
  ovrel intake DIR [--json]         which copies in a folder are versions of one file, in which order, and how sure that is
  ovrel intake DIR --into PROJECT --server ADDRESS [--note TEXT]
                                    takes them in so: all of them, or none (with an access token in OVREL_TOKEN)`;

/** More than this is no folder of copies. */
const MOST_COPIES = 5000;
const MOST_BYTES = 8 * 1024 ** 3;

type Print = (text: string) => Promise<void>;

class NoIntake extends Error {}

/** Gives the exit code: 0 a plan, 2 none. */
export async function intake(argv: readonly string[], print: Print): Promise<number> {
  const { values, positionals } = parseArgs({
    args: [...argv],
    options: {
      json: { type: 'boolean' },
      into: { type: 'string' },
      server: { type: 'string' },
      note: { type: 'string' },
    },
    allowPositionals: true,
  });
  const [folder] = positionals;
  try {
    if (folder === undefined || positionals.length !== 1) throw new NoIntake('ovrel intake takes one folder.');
    const copies = await copiesIn(folder);
    const plan = intakePlan(copies);
    if (values.into !== undefined) {
      await print(await carriedOut(folder, plan, copies, values));
      return 0;
    }
    await print(values.json ? JSON.stringify(plan, null, 2) : planText(plan));
    return 0;
  } catch (error) {
    if (!(error instanceof NoIntake) && !(error instanceof Refused)) throw error;
    console.error(error.message);
    return 2;
  }
}

/** All files below a folder; links are not followed. */
async function copiesIn(folder: string): Promise<FoundCopy[]> {
  const found: FoundCopy[] = [];
  let size = 0;
  const pending = [''];
  for (let below = pending.pop(); below !== undefined; below = pending.pop()) {
    for (const entry of entriesOf(join(folder, below))) {
      const path = below ? `${below}/${entry.name}` : entry.name;
      if (entry.isDirectory() && !entry.name.startsWith('.')) pending.push(path);
      if (!entry.isFile() || entry.name.startsWith('.')) continue;
      const full = join(folder, path);
      const { size: bytes, mtimeMs: at } = statSync(full);
      size += bytes;
      if (found.length >= MOST_COPIES || size > MOST_BYTES)
        throw new NoIntake(
          `${folder} has more than ${MOST_COPIES.toLocaleString('en')} files or ${MOST_BYTES / 1024 ** 3} GB. Take it in folder by folder.`,
        );
      const content = readFileSync(full);
      found.push(await lookAtCopy(path, content, at, createHash('sha256').update(content).digest('hex')));
    }
  }
  return found;
}

function entriesOf(folder: string): ReturnType<typeof readEntries> {
  try {
    return readEntries(folder);
  } catch (error) {
    const { code, message } = error as NodeJS.ErrnoException;
    throw new NoIntake(
      code === 'ENOENT' || code === 'ENOTDIR'
        ? `There is no folder ${folder}.`
        : `${folder} cannot be read (${message}).`,
    );
  }
}

const readEntries = (folder: string) => readdirSync(folder, { withFileTypes: true });

function planText({ files, left }: IntakePlan): string {
  const lines = files.flatMap(fileLines);
  if (left.length > 0) lines.push(`by ${left.length === 1 ? 'itself' : 'themselves'}: ${left.join(', ')}`);
  return lines.join('\n') || 'The folder is empty.';
}

const fileLines = ({ name, members, duplicates, remarks }: PlannedFile): string[] => [
  `${name}: ${members.length === 1 ? '1 version' : `${members.length} versions`}`,
  ...members.map(
    ({ path, version, line, parent, sure, why }) =>
      `  ${line === 0 ? '' : `line ${line} `}v${version}  ${path}${parent === null ? '' : `, from ${parent}`}  (${Math.round(100 * sure)} % sure: ${why.join(', ')})`,
  ),
  ...duplicates.map(({ path, of }) => `  the same content: ${path} as ${of}`),
  ...remarks.map((remark) => `  ${remark}`),
];

interface Into {
  readonly into?: string | undefined;
  readonly server?: string | undefined;
  readonly note?: string | undefined;
}

/** Sends the copies in the order of the plan; gives what the server says. */
async function carriedOut(
  folder: string,
  { files }: IntakePlan,
  copies: readonly FoundCopy[],
  { into = '', server, note = '' }: Into,
): Promise<string> {
  const token = process.env['OVREL_TOKEN'];
  if (!token) throw new NoIntake('OVREL_TOKEN is not set. Make an access token on the page "Desk", and put it there.');
  if (server === undefined || !URL.canParse(server)) throw new NoIntake('Say with --server where Ovrel is.');
  if (files.length === 0) throw new NoIntake(`${folder} has no copies that belong together.`);
  const api = new Api(server, token);
  const all = await api.projects();
  const project = all.find((p) => p.id === into) ?? all.find((p) => p.name.toLowerCase() === into.toLowerCase());
  if (!project)
    throw new NoIntake(`There is no project “${into}” there. There are: ${all.map((p) => p.name).join(', ')}.`);
  const timeOf = new Map(copies.map(({ path, at }) => [path, at]));
  const plan = files.map(({ name, members }) => ({
    name,
    copies: members.map(({ path, line, parent, by }) => {
      const at = timeOf.get(path);
      return {
        path,
        line,
        parent: parent === null ? null : members.findIndex((m) => m.path === parent),
        at: at === undefined ? null : new Date(at).toISOString(),
        ...(by === undefined ? {} : { person: by }),
      };
    }),
  }));
  const outgoing = files.flatMap(({ members }) =>
    members.map(({ path }) => ({ path: join(folder, path), name: path.split('/').at(-1) ?? path, plan: {} })),
  );
  return api.takeIn(project.id, JSON.stringify(plan), note, outgoing);
}
