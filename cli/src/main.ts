import { parseArgs } from 'node:util';
import { compareFiles, designJson, ENGINE, ReadError, type Content } from '@ovrel/core';
import { openFile, openInput } from '@ovrel/core/node';
import own from '../package.json' with { type: 'json' };
import { desk, deskUsage } from './desk/desk.ts';
import { intake, intakeUsage } from './intake.ts';
import { isJoining, joining, joiningUsage } from './joining.ts';
import { comparisonText, designText, pictureText } from './text.ts';

const usage = `ovrel: look into drawings and documents, compare two of them, and work on a desk

  ovrel read FILE [--json]          what is in the file
  ovrel compare OLD NEW [--json] [--tolerance N]
                                    what changed from OLD to NEW; places within N drawing units are the same
                                    FILE, OLD or NEW may be -, which is standard input${joiningUsage}${intakeUsage}
  ovrel --version                   which one this is
${deskUsage}

Exit codes: 0 same (or done), 1 different, 2 could not be done. See docs/cli.md.`;

/** What the commands take. */
const needs: Readonly<Record<string, string>> = {
  read: 'ovrel read takes one file.',
  compare: 'ovrel compare takes two files: the older one, then the newer one.',
};

const ownVersion = own.version;

const options = {
  json: { type: 'boolean' },
  help: { type: 'boolean', short: 'h' },
  version: { type: 'boolean' },
  tolerance: { type: 'string' },
} as const;

/** Runs one command; gives the exit code. */
async function run(argv: readonly string[]): Promise<number> {
  if (argv[0] === 'desk' && !argv.includes('--help') && !argv.includes('-h')) return desk(argv.slice(1), print);
  const [first, ...rest] = argv;
  if (isJoining(first) && !rest.includes('--help') && !rest.includes('-h')) return joining(first, rest, print);
  if (first === 'intake' && !rest.includes('--help') && !rest.includes('-h')) return intake(rest, print);
  const unknown = unknownOption(argv);
  if (unknown) return fail(`ovrel does not know the option ${unknown}.\n\n${usage}`);
  const { values, positionals } = parseArgs({ args: [...argv], options, allowPositionals: true });
  const [command, ...files] = positionals;
  if (values.version) {
    await print(`ovrel ${ownVersion}, ${ENGINE}`);
    return 0;
  }
  if (!command || values.help || command === 'help') {
    await print(usage);
    return command || values.help ? 0 : 2;
  }
  const tolerance = values.tolerance === undefined ? undefined : Number(values.tolerance);
  if (tolerance !== undefined && !(values.tolerance !== '' && tolerance > 0 && Number.isFinite(tolerance)))
    return fail('The tolerance is a distance above 0, such as --tolerance 0.5.');
  const json = values.json === true;
  if (command === 'read' && files[0] !== undefined && files.length === 1) return read(files[0], json);
  if (command === 'compare' && files[0] !== undefined && files[1] !== undefined && files.length === 2) {
    if (files[0] === STANDARD_INPUT && files[1] === STANDARD_INPUT)
      return fail('Only one of the two files can come from standard input.');
    return compare(files[0], files[1], json, tolerance);
  }
  return fail(needs[command] ?? `ovrel does not know the command “${command}”.\n\n${usage}`);
}

/** The first option that there is not; options end at "--". */
function unknownOption(argv: readonly string[]): string | undefined {
  const end = argv.indexOf('--');
  const before = end < 0 ? argv : argv.slice(0, end);
  return before.find((given) => {
    if (!given.startsWith('-') || given === STANDARD_INPUT) return false;
    const name = given.replace(/^--?/, '').replace(/=.*/s, '');
    return given.startsWith('--') ? !(name in options) : name !== options.help.short;
  });
}

/** Stands for what is piped into the command. */
const STANDARD_INPUT = '-';

const opened = (path: string): Promise<Content> =>
  path === STANDARD_INPUT ? openInput(process.stdin) : openFile(path);

async function read(path: string, json: boolean): Promise<number> {
  const { name, bytes, card, format, problem, design: read } = await opened(path);
  if (format?.facts && card) {
    const facts = { format: card.id, ...(await format.facts(bytes)) };
    const whole = { engine: ENGINE, file: name, bytes: bytes.length, ...facts };
    await print(json ? JSON.stringify(whole, null, 2) : pictureText(name, bytes.length, facts));
    return 0;
  }
  if (problem) return fail(`${path} could not be read. ${problem.sentence}`);
  if (!read)
    return fail(
      `${path} could not be read: Ovrel has no reader for ${card ? `a ${card.title}` : 'this kind of file'}. It can still be kept and compared byte by byte.`,
    );
  const design = designJson(read, ENGINE, name, bytes.length);
  await print(json ? JSON.stringify(design, null, 2) : designText(design));
  return 0;
}

/** 2 where a side is damaged: the lesser comparison is still printed. */
async function compare(pathA: string, pathB: string, json: boolean, tolerance: number | undefined): Promise<number> {
  const a = await opened(pathA);
  const b = await opened(pathB);
  const { comparison } = await compareFiles(a, b, tolerance === undefined ? {} : { tolerance });
  await print(json ? JSON.stringify(comparison, null, 2) : comparisonText(comparison));
  for (const [path, input] of [
    [pathA, a],
    [pathB, b],
  ] as const) {
    if (input.problem) console.error(`${path} could not be read part by part. ${input.problem.sentence}`);
  }
  if (a.problem ?? b.problem) return 2;
  return comparison.changes.length || comparison.causes.length ? 1 : 0;
}

function fail(sentence: string): number {
  console.error(sentence);
  return 2;
}

/** Waits until the text is out, so that long output is not cut by the exit. */
const print = (text: string): Promise<void> =>
  new Promise((done) => void process.stdout.write(`${text}\n`, () => done()));

// Whoever reads the output may have enough of it.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit();
  throw error;
});

/** A value that is missing, or is there where none belongs. */
const isMisuse = (error: unknown): error is Error =>
  error instanceof Error && 'code' in error && String(error.code).startsWith('ERR_PARSE_ARGS');

try {
  process.exitCode = await run(process.argv.slice(2));
} catch (error) {
  process.exitCode = fail(
    error instanceof ReadError || isMisuse(error)
      ? error.message
      : `ovrel stopped: ${error instanceof Error ? error.message : String(error)}`,
  );
}
