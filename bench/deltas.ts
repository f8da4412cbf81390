/**
 * How much is sent of a new version of a large file, beside what a compressor makes of the two that has both. `npm run
 * bench deltas [MB]`.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { createHash } from 'node:crypto';
import { deltaFromSignature, packDelta, signatureOf } from '@ovrel/core';
import { randomFrom, type Random } from './accuracy/scripts.ts';
import { line, time } from './measure.ts';

/** Places that are changed; together a hundredth of the file. */
const PLACES = 40;

interface Kind {
  readonly name: string;
  readonly make: (size: number, random: Random) => Buffer;
}

/** Lines of DXF with coordinates, as no two drawings have them. */
function dxfLines(size: number, random: Random): Buffer {
  const out: string[] = ['0\nSECTION\n2\nENTITIES\n'];
  for (let handle = 256, length = 0; length < size; handle++) {
    const [x, y, u, v] = [0, 1, 2, 3].map(() => (random(10_000_000) / 10_000).toFixed(4));
    const entity = `0\nLINE\n5\n${handle.toString(16).toUpperCase()}\n8\nDeck\n10\n${x}\n20\n${y}\n11\n${u}\n21\n${v}\n`;
    out.push(entity);
    length += entity.length;
  }
  return Buffer.from(`${out.join('')}0\nENDSEC\n0\nEOF\n`);
}

/** Triangles of binary STL. */
function stlTriangles(size: number, random: Random): Buffer {
  const count = Math.floor((size - 84) / 50);
  const out = Buffer.alloc(84 + 50 * count);
  out.writeUInt32LE(count, 80);
  for (let k = 0; k < count; k++)
    for (let value = 0; value < 12; value++) out.writeFloatLE(random(1_000_000) / 10_000, 84 + 50 * k + 4 * value);
  return out;
}

const kinds: readonly Kind[] = [
  { name: 'DXF text', make: dxfLines },
  { name: 'STL', make: stlTriangles },
];

/** A hundredth of a file made anew, in some places, one of which is longer than before. */
function changed(base: Buffer, fresh: Buffer, random: Random): Buffer {
  const piece = Math.floor(base.length / 100 / PLACES);
  const places = Array.from({ length: PLACES }, () => random(base.length - piece)).sort((a, b) => a - b);
  const parts: Buffer[] = [];
  let at = 0;
  for (const [k, place] of places.entries()) {
    if (place < at) continue;
    parts.push(base.subarray(at, place), fresh.subarray(place, place + piece + (k === 0 ? 1000 : 0)));
    at = place + piece;
  }
  return Buffer.concat([...parts, base.subarray(at)]);
}

export async function benchDeltas(megabytes: number): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'ovrel-deltas-'));
  const [a, b, patch] = ['a', 'b', 'patch'].map((name) => join(folder, name)) as [string, string, string];
  for (const { name, make } of kinds) {
    const size = megabytes * 1_000_000;
    const base = make(size, randomFrom(1));
    const target = changed(base, make(size, randomFrom(2)), randomFrom(3));
    writeFileSync(a, base);
    writeFileSync(b, target);
    const zstd = spawnSync('zstd', ['-f', '-q', '--long=31', `--patch-from=${a}`, b, '-o', patch]);
    const baseline = zstd.status === 0 ? statSync(patch).size : NaN;
    const signature = signatureOf(base);
    let sent = 0;
    const spent = await time(() => {
      sent = gzipSync(packDelta(deltaFromSignature(signature, target))).length;
    });
    const hashing = await time(() => createHash('sha256').update(readFileSync(b)).digest());
    line(`${name}, ${megabytes} MB, 1 % new: bytes sent ÷ zstd --patch-from`, (sent / baseline).toFixed(2), 'goal 2');
    line('  sent; signature that is fetched', `${sent} B`, `${signature.length} B`);
    line('  finding what is new ÷ hashing the file', (spent / hashing).toFixed(1));
    const same = gzipSync(packDelta(deltaFromSignature(signature, base))).length;
    line('  the same content again', `${same} B`);
  }
  rmSync(folder, { recursive: true });
}
