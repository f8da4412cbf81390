/** Lint, types, units, and the real interface in a real browser, on a database of their own. */
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
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
const only = process.argv.slice(2);
const wants = (part: string): boolean => only.length === 0 || only.includes(part);
const tally: Tally = { passed: 0, failed: 0 };
const check = (ok: boolean): void => {
  if (ok) tally.passed++;
  else tally.failed++;
};

function addJson(file: string, read: (json: never) => Tally): void {
  const path = join(results, file);
  // A runner that died before it could report has failed.
  const { passed, failed } = existsSync(path)
    ? read(JSON.parse(readFileSync(path, 'utf8')) as never)
    : { passed: 0, failed: 1 };
  tally.passed += passed;
  tally.failed += failed;
}

try {
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
  if (wants('units') || wants('e2e'))
    await withTestBed(async (bed) => {
      if (wants('units')) {
        await run(
          'units',
          tool('jest/bin/jest.js'),
          ['--json', `--outputFile=${join(results, 'units.json')}`, '--silent'],
          bed.units,
        );
        addJson(
          'units.json',
          (json: { numPassedTests: number; numFailedTests: number; numFailedTestSuites: number }) => ({
            passed: json.numPassedTests,
            failed: json.numFailedTests || json.numFailedTestSuites,
          }),
        );
      }
      if (wants('e2e')) {
        const argv = ['test', '-c', 'e2e/playwright.config.ts'];
        await run('interface', tool('@playwright/test/cli.js'), argv, await bed.interface());
        addJson('e2e.json', (json: { stats: { expected: number; unexpected: number; flaky: number } }) => ({
          passed: json.stats.expected,
          failed: json.stats.unexpected + json.stats.flaky,
        }));
      }
    });
} catch (error) {
  console.error(error instanceof Stop ? error.message : error);
  tally.failed++;
}
console.log(`\n${tally.passed} passed, ${tally.failed} failed`);
process.exit(tally.failed ? 1 : 0);
