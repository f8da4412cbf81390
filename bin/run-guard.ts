/** The standing guard: all that tries to break a promise of docs/security.md, one part after the other, and a table. */
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { root } from './lib/prepare.mjs';
import { withTestBed, type TestBed } from './lib/test-bed.ts';

const tool = (path: string): string => join(root, 'node_modules', path);
const jest = (pattern: string): readonly string[] => [
  tool('jest/bin/jest.js'),
  '--silent',
  '--testPathPatterns',
  pattern,
];
const playwright = (spec: string): readonly string[] => [
  tool('@playwright/test/cli.js'),
  'test',
  '-c',
  'e2e/playwright.config.ts',
  spec,
];

interface Part {
  readonly name: string;
  readonly promise: string;
  readonly argv: readonly string[];
  /** What it needs to run against; without it, it makes its own. */
  readonly bed?: 'units' | 'interface';
  readonly env?: NodeJS.ProcessEnv;
}

const [first, ...rest] = process.argv.slice(2);
const short = first === 'short';
const wanted = short ? rest : process.argv.slice(2);
const size = (whole: number, inShort: number): string => String(short ? inShort : whole);

const parts: readonly Part[] = [
  {
    name: 'kills',
    promise: 'what was acknowledged is there',
    argv: [join(root, 'bench/main.ts'), 'kill', size(70, 6)],
  },
  {
    name: 'flips',
    promise: 'no wrong byte is given out',
    argv: jest('store/flips'),
    bed: 'units',
    env: { OVREL_FLIPS: size(200, 24) },
  },
  {
    name: 'races',
    promise: 'no update is lost',
    argv: jest('(at-once|checkouts|attempt)\\.db'),
    bed: 'units',
  },
  { name: 'seals', promise: 'changes by hand are found', argv: jest('ledger/.*\\.db'), bed: 'units' },
  { name: 'roles', promise: 'rights hold everywhere', argv: playwright('matrix'), bed: 'interface' },
  { name: 'leaks', promise: 'what is closed is in no answer', argv: playwright('leaks'), bed: 'interface' },
  {
    name: 'requests',
    promise: 'no request ends in a 500',
    argv: [join(root, 'fuzz/api.ts'), size(100_000, 1500)],
  },
  {
    name: 'readers',
    promise: 'damaged files end in a sentence',
    argv: [join(root, 'fuzz/main.ts'), size(20_000, 60)],
  },
  { name: 'hostile', promise: 'no file stops the others', argv: jest('compute/hostile') },
];

interface Result {
  readonly part: Part;
  readonly held: boolean;
  readonly seconds: number;
}

function run(part: Part, env: NodeJS.ProcessEnv): Promise<Result> {
  const start = Date.now();
  console.log(`\n== ${part.name}: ${part.promise}`);
  return new Promise((done) => {
    const child = spawn(process.execPath, [...part.argv], {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env, ...part.env },
    });
    child.on('close', (code) => done({ part, held: code === 0, seconds: Math.round((Date.now() - start) / 1000) }));
  });
}

async function runIn(bed: TestBed, some: readonly Part[]): Promise<Result[]> {
  const results: Result[] = [];
  const wantsInterface = some.some((part) => part.bed === 'interface');
  const ofInterface = wantsInterface ? await bed.interface() : {};
  for (const part of some) results.push(await run(part, part.bed === 'units' ? bed.units : ofInterface));
  return results;
}

const chosen = parts.filter(({ name }) => wanted.length === 0 || wanted.includes(name));
if (chosen.length === 0) {
  console.error(`npm run guard [short] [part ...], of these parts: ${parts.map(({ name }) => name).join(', ')}`);
  process.exit(2);
}
const inBed = chosen.filter((part) => part.bed !== undefined);
const results: Result[] = [];
for (const part of chosen.filter(({ bed }) => bed === undefined)) results.push(await run(part, {}));
if (inBed.length > 0) results.push(...(await withTestBed((bed) => runIn(bed, inBed))));

console.log('');
for (const { part, held, seconds } of results)
  console.log(`${held ? 'holds ' : 'BROKEN'}  ${part.name.padEnd(9)} ${part.promise.padEnd(34)} ${seconds} s`);
process.exit(results.every(({ held }) => held) ? 0 : 1);
