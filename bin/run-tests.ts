/** Lint, types, units, and the real interface in a real browser, on a database of their own. */
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { outcomeOfInterface, outcomeOfUnits, sayFailures, type Failure, type Outcome } from './lib/failures.ts';
import { root } from './lib/prepare.mjs';
import { Stop } from './lib/stop.ts';
import { withTestBed } from './lib/test-bed.ts';

interface Tally {
  passed: number;
  failed: number;
}

const tool = (path: string): string => join(root, 'node_modules', path);

function run(what: string, script: string, argv: string[], env: NodeJS.ProcessEnv = {}): Promise<boolean> {
  const start = Date.now();
  return new Promise((done) => {
    const child = spawn(process.execPath, [script, ...argv], {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env },
    });
    child.on('close', (code) => {
      console.log(`${code === 0 ? 'ok    ' : 'FAILED'} ${what}, ${Math.round((Date.now() - start) / 1000)} s`);
      done(code === 0);
    });
  });
}

const results = join(root, 'test-results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
/** `npm test [lint] [types] [units] [e2e]`; further words choose among the tests of units and interface, by file. */
const parts = ['lint', 'types', 'units', 'e2e'];
const only = process.argv.slice(2).filter((word) => parts.includes(word));
const chosen = process.argv.slice(2).filter((word) => !parts.includes(word));
const wants = (part: string): boolean => only.length === 0 || only.includes(part);
const tally: Tally = { passed: 0, failed: 0 };
const check = (ok: boolean): void => {
  if (ok) tally.passed++;
  else tally.failed++;
};

const failures: Failure[] = [];

function addReport<T>(file: string, read: (report: T) => Outcome): void {
  const path = join(results, file);
  // A runner that died before it could report has failed.
  const died: Outcome = { passed: 0, failed: 1, failures: [{ test: file, why: 'It ended without a report.' }] };
  const outcome = existsSync(path) ? read(JSON.parse(readFileSync(path, 'utf8')) as T) : died;
  tally.passed += outcome.passed;
  tally.failed += outcome.failed;
  failures.push(...outcome.failures);
}

async function checkForm(): Promise<void> {
  if (wants('lint')) {
    check(await run('lint', tool('eslint/bin/eslint.js'), ['.', '--max-warnings', '0']));
    check(await run('form', tool('prettier/bin/prettier.cjs'), ['--check', '--log-level', 'warn', '.']));
    check(
      await run('rooms: no circles, one direction', tool('dependency-cruiser/bin/dependency-cruiser.mjs'), [
        ...['core/src', 'cli/src', 'web/src'],
        ...['--config', '.dependency-cruiser.mjs', '--output-type', 'err'],
      ]),
    );
    check(
      await run('nothing exported in vain', tool('knip/bin/knip.js'), [
        ...['--include', 'exports,types,files', '--no-progress'],
      ]),
    );
  }
}

async function checkTypes(): Promise<void> {
  if (wants('types')) {
    check(
      await run('types: core, command line, demo, scripts', tool('typescript/bin/tsc'), [
        '--noEmit',
        '-p',
        'tsconfig.json',
      ]),
    );
    check(await run('types: web', tool('typescript/bin/tsc'), ['--noEmit', '-p', 'web/tsconfig.json']));
  }
}

try {
  // Meanwhile the demo is loaded, which waits more than it computes.
  const form = checkForm();
  const hasBed = wants('units') || wants('e2e');
  if (!hasBed) await checkTypes();
  if (hasBed)
    await withTestBed(async (bed) => {
      await form;
      // Not earlier: the build writes types, too.
      await checkTypes();
      if (wants('units')) {
        await run(
          'units',
          tool('jest/bin/jest.js'),
          // By itself it leaves one of two cores alone.
          ['--json', `--outputFile=${join(results, 'units.json')}`, '--silent', '--maxWorkers=100%', ...chosen],
          bed.units,
        );
        addReport('units.json', outcomeOfUnits);
      }
      if (wants('e2e')) {
        const argv = ['test', '-c', 'e2e/playwright.config.ts', ...chosen];
        await run('interface', tool('@playwright/test/cli.js'), argv, await bed.interface());
        addReport('e2e.json', outcomeOfInterface);
      }
    });
  await form;
} catch (error) {
  console.error(error instanceof Stop ? error.message : error);
  tally.failed++;
}
if (failures.length > 0) console.log(`\n${sayFailures(failures)}`);
console.log(`\n${tally.passed} passed, ${tally.failed} failed`);
process.exit(tally.failed ? 1 : 0);
