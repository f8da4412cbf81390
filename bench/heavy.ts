/**
 * Heavy work beside light: thirty comparisons of drawings of 62 MB are asked for at once by one person, and another
 * one looks at small files meanwhile.
 */
import { rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { largeDrawing } from './compare.ts';
import { line, median, ms, residentMegabytes } from './measure.ts';
import { signInTo, type Target } from './target.ts';

/** As many parts as make 62 MB. */
const PARTS = 1_060_000;
const VERSIONS = 6;
const MB = 1024 * 1024;

/** Versions of one large drawing, which differ little. */
async function largeVersions(target: Target): Promise<readonly string[]> {
  const project = (await target.json('/projects', 'POST', { name: `Heavy ${Date.now()}` })) as { id: string };
  const file = join(tmpdir(), 'ovrel-heavy.svg');
  const versions: string[] = [];
  let fileId = '';
  for (let number = 1; number <= VERSIONS; number++) {
    const text = Buffer.from(largeDrawing(PARTS, number % 2 === 0, false))
      .toString()
      .replace('</svg>', `<rect id="revision" x="${number}" y="${Date.now()}" width="9" height="9"/></svg>`);
    if (number === 1) line('size of one drawing', `${Math.round(text.length / MB)} MB`);
    writeFileSync(file, text);
    const path = fileId ? `/files/${fileId}/versions` : `/projects/${project.id}/files`;
    const made = (await target.sendFile(path, file, 'heavy.svg')) as {
      file?: { id: string; newest: { id: string } };
      version?: { id: string };
    };
    fileId = made.file?.id ?? fileId;
    versions.push(made.version?.id ?? made.file?.newest.id ?? '');
  }
  rmSync(file);
  return versions;
}

/** A small drawing that nobody has looked at yet: how long until its parts and its picture are there, milliseconds. */
async function firstLook(target: Target, project: string, number: number): Promise<number> {
  const form = new FormData();
  const text = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 90"><rect width="${number + 4}" height="9"/></svg>`;
  form.append('file', new Blob([text]), `small-${number}.svg`);
  const made = (await target.send(`/projects/${project}/files`, form)) as { file: { newest: { id: string } } };
  const start = performance.now();
  await target.drain(`/versions/${made.file.newest.id}/view`);
  await target.drain(`/versions/${made.file.newest.id}/thumbnail`);
  return performance.now() - start;
}

interface Ended {
  readonly finished: number;
  readonly refused: ReadonlyMap<string, number>;
}

async function askAll(target: Target, pairs: readonly (readonly [string, string])[]): Promise<Ended> {
  const refused = new Map<string, number>();
  let finished = 0;
  await Promise.all(
    pairs.map(async ([a, b]) => {
      try {
        await target.drain(`/comparisons?a=${a}&b=${b}`);
        finished += 1;
      } catch (error) {
        const status = /(\d+)$/.exec((error as Error).message)?.[1] ?? (error as Error).message;
        refused.set(status, (refused.get(status) ?? 0) + 1);
      }
    }),
  );
  return { finished, refused };
}

export async function benchHeavy(target: Target, count = 30): Promise<void> {
  const other = await signInTo(target.address, target.serverPid, 'ines@quillmere.example');
  const small = (await target.json('/projects', 'POST', { name: `Small ${Date.now()}` })) as { id: string };
  await firstLook(other, small.id, 0);
  const alone = await firstLook(other, small.id, 1);
  const versions = await largeVersions(target);
  const pairs = versions.flatMap((a) => versions.filter((b) => b !== a).map((b) => [a, b] as const));
  let memory = 0;
  const watch = setInterval(() => {
    memory = Math.max(memory, residentMegabytes(target.serverPid));
  }, 100);
  const start = performance.now();
  let under = true;
  const all = askAll(target, pairs.slice(0, count)).finally(() => {
    under = false;
  });
  const looks: number[] = [];
  for (let number = 2; under; number++) {
    looks.push(await firstLook(other, small.id, number));
    await new Promise((done) => {
      setTimeout(done, 1000);
    });
  }
  const { finished, refused } = await all;
  clearInterval(watch);
  const notDone = [...refused].map(([status, times]) => `${times} with ${status}`).join(', ');
  line(`${count} comparisons: finished`, String(finished), notDone && `the others: ${notDone}`);
  line('all of them', ms(performance.now() - start));
  line('memory of the web process at most', `${Math.round(memory)} MB`, 'goal < 1000');
  line(
    'first look at a small drawing meanwhile, the longest',
    ms(Math.max(...looks)),
    `goal < 2000; median ${ms(median(looks))} of ${looks.length}, alone ${ms(alone)}`,
  );
}
