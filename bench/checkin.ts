/** A check-in of 200 MB through the running server, against hashing the same file alone; and what it costs in memory. */
import { createHash, randomFillSync } from 'node:crypto';
import { createReadStream, openAsBlob, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { against, line, median, ms, time } from './measure.ts';
import type { Target } from './target.ts';

const MB = 1024 * 1024;
const SIZE = 200 * MB;

const hashFile = async (path: string): Promise<string> => {
  const hash = createHash('sha256');
  for await (const piece of createReadStream(path, { highWaterMark: 256 * 1024 })) hash.update(piece as Buffer);
  return hash.digest('hex');
};

/** Half random, half text: like a model with textures. New in every round. */
function makeFile(path: string): void {
  const bytes = Buffer.alloc(SIZE);
  for (let at = 0; at < SIZE; at += MB) {
    if ((at / MB) % 2) bytes.write(`#${at}=CARTESIANPOINT('',(${at % 977}.25,${at % 613}.5,0.));\n`.repeat(20_000).slice(0, MB), at, 'latin1');
    else randomFillSync(bytes, at, MB);
  }
  writeFileSync(path, bytes);
}

const peakMemory = (pid: number): number => Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? NaN) / 1024;

export async function benchCheckIn(target: Target): Promise<void> {
  const path = join(tmpdir(), `ovrel-bench-${process.pid}.bin`);
  try {
    const project = (await target.json('/projects', 'POST', { name: `Bench ${Date.now()}` })) as { id: string };
    makeFile(path);
    const before = peakMemory(target.serverPid);
    const { file } = (await target.send(`/projects/${project.id}/files`, await formOf(path, 'large.bin'))) as { file: { id: string; newest: { id: string; sha256: string } } };
    if (file.newest.sha256 !== (await hashFile(path))) throw new Error('the stored content is not the file');
    const memory = peakMemory(target.serverPid) - before;
    const fresh: { hash: number; send: number }[] = [];
    for (let round = 0; round < 3; round++) {
      makeFile(path);
      const form = await formOf(path, 'large.bin');
      fresh.push({ hash: await time(() => hashFile(path)), send: await time(() => target.send(`/files/${file.id}/versions`, form)) });
    }
    const [hashing, sending] = [median(fresh.map((r) => r.hash)), median(fresh.map((r) => r.send))];
    line('check-in of 200 MB of new data ÷ hashing the file alone', (sending / hashing).toFixed(2), `${ms(sending)} against ${ms(hashing)}`);
    let copies = 0;
    const known = await against(() => hashFile(path), async () => target.send(`/projects/${project.id}/files`, await formOf(path, `copy-${++copies}.bin`)), 3);
    line('check-in of 200 MB that is stored already ÷ hashing the file alone', known.ratio.toFixed(2), `${ms(known.subject)} against ${ms(known.baseline)}`);
    const down = await against(() => hashFile(path), () => target.drain(`/versions/${file.newest.id}/content`), 2);
    line('download of 200 MB ÷ hashing the file alone', down.ratio.toFixed(2), `${ms(down.subject)} against ${ms(down.baseline)}`);
    line('memory that the server took for the first 200 MB, at most', `${Math.round(memory)} MB`);
  } finally {
    rmSync(path, { force: true });
  }
}

async function formOf(path: string, name: string): Promise<FormData> {
  const form = new FormData();
  form.append('file', await openAsBlob(path), name);
  return form;
}
