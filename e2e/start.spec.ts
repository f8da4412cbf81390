import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync, chmodSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { freePort } from '../bin/lib/cluster.ts';
import { root } from '../bin/lib/prepare.mjs';

/** npm start as a person runs it, in a process group of its own so that Ctrl-C can be pressed. */
function start(
  env: Record<string, string>,
  ...argv: string[]
): { child: ChildProcess; said: () => string; until: (words: RegExp) => Promise<void>; gone: Promise<number | null> } {
  const clean = { ...process.env, ...env };
  delete clean['DATABASE_URL'];
  const child = spawn('node', [join(root, 'bin/start.mjs'), ...argv], { cwd: root, env: clean, detached: true });
  let text = '';
  for (const stream of [child.stdout, child.stderr]) {
    stream.on('data', (piece: Buffer) => {
      text += piece.toString();
    });
  }
  const gone = new Promise<number | null>((done) => child.on('close', done));
  const until = async (words: RegExp): Promise<void> => {
    for (let i = 0; i < 4000 && !words.test(text); i++) await new Promise((done) => setTimeout(done, 150));
    if (!words.test(text)) throw new Error(`it never said ${words}; it said: ${text}`);
  };
  return { child, said: () => text, until, gone };
}

const pressCtrlC = (child: ChildProcess): boolean => process.kill(-(child.pid as number), 'SIGINT');

test('npm start sets up, serves, starts again in seconds, and Ctrl-C stops all of it', async () => {
  test.setTimeout(900_000);
  const data = mkdtempSync(join(tmpdir(), 'ovrel-start-'));
  chmodSync(data, 0o755);
  try {
    const port = await freePort();
    const env = { PORT: String(port), OVREL_DATA: join(data, 'data') };
    const first = start(env, '--empty');
    await first.until(/Ovrel is at http:\/\/localhost:\d+/);
    expect(first.said()).toContain('Making a PostgreSQL cluster');
    expect(first.said()).not.toContain('quillmere.example');
    expect(await (await fetch(`http://localhost:${port}/first`)).text()).toContain('Ovrel is new here');
    // The same data twice, and the same port twice, are told in a sentence.
    const rival = start({ ...env, PORT: String(await freePort()) });
    expect(await rival.gone).toBe(1);
    expect(rival.said()).toMatch(/Ovrel is running already with the data in .*set OVREL_DATA/);
    const crowded = start({ PORT: String(port), OVREL_DATA: join(data, 'other') });
    expect(await crowded.gone).toBe(1);
    expect(crowded.said()).toMatch(/Port \d+ is in use/);
    pressCtrlC(first.child);
    expect(await first.gone).toBe(0);
    await expect(fetch(`http://localhost:${port}/`)).rejects.toThrow();
    const second = start(env);
    await second.until(/Ovrel is at/);
    expect(second.said()).not.toMatch(/Making a PostgreSQL cluster|Building the application|Installing/);
    expect(second.said()).toContain('Loading the demo project');
    expect(second.said()).toMatch(/marit@quillmere\.example +Marit Oakes, administrator/);
    pressCtrlC(second.child);
    expect(await second.gone).toBe(0);
    // Killed outright, the next start puts things right by itself.
    const third = start(env);
    await third.until(/Ovrel is at/);
    process.kill(-(third.child.pid as number), 'SIGKILL');
    await third.gone;
    const fourth = start(env);
    await fourth.until(/Ovrel is at/);
    pressCtrlC(fourth.child);
    expect(await fourth.gone).toBe(0);
  } finally {
    rmSync(data, { recursive: true, force: true });
  }
});

test('a nonsense port is told in a sentence', async () => {
  const run = start({ PORT: 'harbour' });
  expect(await run.gone).toBe(1);
  expect(run.said()).toContain('PORT is “harbour”, which is not a port number.');
});
