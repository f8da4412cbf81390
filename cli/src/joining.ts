/** Files put together without a server: two sides joined, single changes taken back, parts carried over. */
import { writeFile } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import {
  carryOver,
  choices,
  compareFiles,
  joinFiles,
  ReadError,
  takeBackChanges,
  type Carried,
  type Choice,
  type Compared,
  type Content,
  type Joined,
  type JoinOptions,
} from '@ovrel/core';
import { openFile } from '@ovrel/core/node';

export const joiningUsage = `
  ovrel join BASE OURS THEIRS -o OUT [--json] [--prefer ours|theirs|both]
                                    OURS with what was done from BASE to THEIRS
  ovrel takeback A B NEWEST -o OUT [--cause ID …] [--change ID …] [--json] [--prefer …]
                                    NEWEST without what was done from A to B, or without some of it, as
                                    ovrel compare A B --json lists it
  ovrel carry FROM INTO -o OUT --part KEY … | --layer NAME … | --page N | --area X,Y,WIDTH,HEIGHT … [--json]
                                    INTO with parts of FROM, and all that they need; of pictures an area, in pixels`;

const options = {
  output: { type: 'string', short: 'o' },
  json: { type: 'boolean' },
  prefer: { type: 'string' },
  cause: { type: 'string', multiple: true },
  change: { type: 'string', multiple: true },
  part: { type: 'string', multiple: true },
  layer: { type: 'string', multiple: true },
  page: { type: 'string' },
  area: { type: 'string', multiple: true },
} as const;

type Values = ReturnType<typeof parsed>['values'];
type Print = (text: string) => Promise<void>;

const parsed = (argv: readonly string[]) => parseArgs({ args: [...argv], options, allowPositionals: true });

/** A mistake of whoever called it, in a sentence. */
class Misuse extends Error {}

interface Command {
  readonly files: readonly string[];
  readonly run: (files: readonly Content[], values: Values) => Promise<Joined>;
}

const commands: Readonly<Record<string, Command>> = {
  join: {
    files: ['BASE', 'OURS', 'THEIRS'],
    run: ([base, ours, theirs], values) => joinFiles(given(base), given(ours), given(theirs), preferring(values)),
  },
  takeback: {
    files: ['A', 'B', 'NEWEST'],
    run: async ([a, b, newest], values) =>
      takeBackChanges(
        given(a),
        given(b),
        given(newest),
        await changesOf(given(a), given(b), values),
        preferring(values),
      ),
  },
  carry: {
    files: ['FROM', 'INTO'],
    run: ([from, into], values) =>
      carryOver(given(from), given(into), wantedOf(given(from), values), preferring(values)),
  },
};

export const isJoining = (command: string | undefined): command is string =>
  command !== undefined && Object.hasOwn(commands, command);

/** Gives the exit code: 0 done, 1 done with clashes that were not decided, 2 not done. */
export async function joining(name: string, argv: readonly string[], print: Print): Promise<number> {
  const command = commands[name] as Command;
  const { values, positionals } = parsed(argv);
  try {
    if (positionals.length !== command.files.length)
      throw new Misuse(`ovrel ${name} takes ${command.files.length} files: ${command.files.join(', ')}.`);
    const { output } = values;
    if (output === undefined) throw new Misuse('Say with -o which file the result is written to.');
    const files = await Promise.all(positionals.map(readable));
    const joined = await command.run(files, values);
    await writeFile(output, joined.bytes);
    await print(values.json ? JSON.stringify(toJson(joined), null, 2) : toText(joined, output));
    return joined.clashes.length > 0 || joined.inseparable.length > 0 ? 1 : 0;
  } catch (error) {
    if (!(error instanceof Misuse) && !(error instanceof ReadError)) throw error;
    console.error(error.message);
    return 2;
  }
}

const given = (content: Content | undefined): Content => {
  if (!content) throw new Misuse('A file is missing.');
  return content;
};

async function readable(path: string): Promise<Content> {
  const content = await openFile(path);
  if (content.problem) throw new Misuse(`${path} could not be read. ${content.problem.sentence}`);
  return content;
}

function preferring({ prefer }: Values): JoinOptions {
  if (prefer === undefined) return {};
  const choice = choices.find((c): c is Choice => c === prefer);
  if (!choice) throw new Misuse(`--prefer is one of ${choices.join(', ')}.`);
  return { prefer: choice };
}

async function changesOf(
  a: Content,
  b: Content,
  { cause = [], change = [] }: Values,
): Promise<{ compared: Compared; changes: number[] }> {
  const compared = await compareFiles(a, b);
  const { comparison } = compared;
  const unknown = [
    ...cause.filter((id) => !comparison.causes.some((c) => c.id === id)),
    ...change.filter((id) => !comparison.changes.some((c) => c.id === id)),
  ];
  if (unknown.length) throw new Misuse(`The comparison has no ${unknown.join(', ')}: see ovrel compare A B --json.`);
  const all = cause.length + change.length === 0;
  const wanted = new Set([...change, ...comparison.causes.flatMap((c) => (cause.includes(c.id) ? c.changes : []))]);
  return { compared, changes: comparison.changes.flatMap((c, k) => (all || wanted.has(c.id) ? [k] : [])) };
}

/** Left, top, width and height, in pixels. */
function boxOf(text: string): [number, number, number, number] {
  const [x = NaN, y = NaN, width = NaN, height = NaN] = text.split(',').map(Number);
  if (!(width > 0) || !(height > 0) || !Number.isFinite(x + y))
    throw new Misuse(`--area is left,top,width,height in pixels, such as 120,40,300,200; “${text}” is not.`);
  return [x, y, x + width, y + height];
}

function wantedOf(from: Content, values: Values): Carried {
  const { page, layer = [], area = [] } = values;
  // Where the parts are not known to the letter, the file is made of whole pages, layers or pixels.
  const whole = { layers: layer, boxes: area.map(boxOf), pages: page === undefined ? [] : [Number(page) - 1] };
  return from.format?.source?.drawing || from.format?.source?.text ? { parts: partsOf(from, values) } : whole;
}

function partsOf({ design, name }: Content, { part = [], layer = [], page }: Values): number[] {
  if (part.length + layer.length === 0 && page === undefined)
    throw new Misuse('Say what is to be carried over: --part KEY, --layer NAME or --page N.');
  const parts = design?.parts ?? [];
  const found = new Set<number>();
  const take = (says: string, fits: (k: number) => boolean): void => {
    const here = parts.flatMap((_, k) => (fits(k) ? [k] : []));
    if (here.length === 0) throw new Misuse(`${name} has no ${says}.`);
    for (const k of here) found.add(k);
  };
  for (const key of part) take(`part “${key}”`, (k) => parts[k]?.key === key || parts[k]?.name === key);
  for (const own of layer) take(`layer “${own}” with anything on it`, (k) => parts[k]?.category === own);
  if (page !== undefined) take(`page ${page} with anything on it`, (k) => parts[k]?.page === Number(page) - 1);
  return [...found];
}

/** Clashes as {kind, key, ours, theirs}, and what was left as it was. */
const toJson = ({ clashes, inseparable, changed }: Joined): unknown => ({
  changed,
  clashes: clashes.map(({ kind, key, choice, base, ours, theirs }) => ({ kind, key, choice, base, ours, theirs })),
  inseparable,
});

function toText({ clashes, inseparable, changed }: Joined, output: string): string {
  const lines = [changed ? `written to ${output}` : `nothing had to be done; ${output} is as it was`];
  for (const { kind, choice, base, ours, theirs } of clashes) {
    const part = (ours ?? base ?? theirs)?.part;
    lines.push(`clash (${kind}): ${part ? `${part.kind} ${part.name}` : 'the whole file'}; taken: ${choice}`);
  }
  for (const name of inseparable) lines.push(`not done: ${name} belongs to a change of more than was named`);
  return lines.join('\n');
}
