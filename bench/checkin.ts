/**
 * A check-in of 200 MB through the running server, against hashing the same file alone; and what 1 GB costs in memory.
 * Sender, server and database share the machine. The server has no worker process here, so nothing is packed meanwhile.
 */
import { createHash, randomFillSync } from 'node:crypto';
import { copyFileSync, createReadStream, readFileSync, rmSync, writeFileSync } from 'node:fs';
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
function makeFile(path: string, size = SIZE): void {
  const bytes = Buffer.alloc(size);
  for (let at = 0; at < size; at += MB) {
    if ((at / MB) % 2)
      bytes.write(
        `#${at}=CARTESIANPOINT('',(${at % 977}.25,${at % 613}.5,0.));\n`.repeat(20_000).slice(0, MB),
        at,
        'latin1',
      );
    else randomFillSync(bytes, at, MB);
  }
  // Written out now, not while something is measured.
  writeFileSync(path, bytes, { flush: true });
}

const peakMemory = (pid: number): number =>
  Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? NaN) / 1024;

export async function benchCheckIn(target: Target): Promise<void> {
  const path = join(tmpdir(), `ovrel-bench-${process.pid}.bin`);
  try {
    const project = (await target.json('/projects', 'POST', { name: `Bench ${Date.now()}` })) as { id: string };
    makeFile(path);
    const { file } = (await target.sendFile(`/projects/${project.id}/files`, path, 'large.bin')) as {
      file: { id: string; newest: { id: string; sha256: string } };
    };
    if (file.newest.sha256 !== (await hashFile(path))) throw new Error('the stored content is not the file');
    const fresh: { hash: number; send: number }[] = [];
    for (let round = 0; round < 3; round++) {
      makeFile(path);
      fresh.push({
        hash: await time(() => hashFile(path)),
        send: await time(() => target.sendFile(`/files/${file.id}/versions`, path, 'large.bin')),
      });
    }
    const [hashing, sending] = [median(fresh.map((r) => r.hash)), median(fresh.map((r) => r.send))];
    line(
      'check-in of 200 MB of new data ÷ hashing the file alone',
      (sending / hashing).toFixed(2),
      `${ms(sending)} against ${ms(hashing)}`,
    );
    let copies = 0;
    const known = await against(
      () => hashFile(path),
      () => target.sendFile(`/projects/${project.id}/files`, path, `copy-${++copies}.bin`),
      3,
    );
    line(
      'check-in of 200 MB that is stored already ÷ hashing the file alone',
      known.ratio.toFixed(2),
      `${ms(known.subject)} against ${ms(known.baseline)}`,
    );
    const down = await against(
      () => hashFile(path),
      () => target.drain(`/versions/${file.newest.id}/content`),
      2,
    );
    line(
      'download of 200 MB ÷ hashing the file alone',
      down.ratio.toFixed(2),
      `${ms(down.subject)} against ${ms(down.baseline)}`,
    );
    const copied = join(tmpdir(), `ovrel-bench-${process.pid}-copy.bin`);
    const copying = await against(
      () => copyFileSync(path, copied),
      () => target.save(`/versions/${file.newest.id}/content`, copied),
      3,
    );
    rmSync(copied, { force: true });
    line(
      'the same download into a file ÷ copying the file on the disk',
      copying.ratio.toFixed(2),
      `${ms(copying.subject)} against ${ms(copying.baseline)}`,
    );
    const before = peakMemory(target.serverPid);
    makeFile(path, 1024 * MB);
    const { file: huge } = (await target.sendFile(`/projects/${project.id}/files`, path, 'huge.bin')) as {
      file: { newest: { id: string; sha256: string } };
    };
    const after = peakMemory(target.serverPid);
    if (huge.newest.sha256 !== (await hashFile(path))) throw new Error('the stored content is not the file');
    await target.drain(`/versions/${huge.newest.id}/content`);
    line(
      'memory of the server, at most: after many times 200 MB, then 1 GB in, then out',
      [before, after, peakMemory(target.serverPid)].map((n) => `${Math.round(n)} MB`).join(' '),
    );
  } finally {
    rmSync(path, { force: true });
  }
}
