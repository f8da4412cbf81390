/** A file of more than 4 GB in a streamed ZIP: sizes in 64 bits, memory flat. */
import { Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { zipStream } from '../web/src/server/projects/archive.ts';
import { line, ms, time } from './measure.ts';

export async function benchArchive(): Promise<void> {
  const size = 4_400_000_000;
  const piece = Buffer.alloc(1 << 20, 1);
  const before = process.memoryUsage().rss;
  let total = 0;
  let most = before;
  let tail = Buffer.alloc(0);
  const spent = await time(() =>
    pipeline(
      zipStream([{ path: 'survey.png', contentId: '', size, format: 'png', madeAt: new Date(0) }], async function* () {
        for (let left = size; left > 0; left -= piece.length) yield piece.subarray(0, Math.min(left, piece.length));
      }),
      new Writable({
        write: (part: Buffer, _, done) => {
          total += part.length;
          tail = Buffer.concat([tail, part.subarray(-400)]).subarray(-400);
          most = Math.max(most, process.memoryUsage.rss());
          done();
        },
      }),
    ),
  );
  const wanted = Buffer.alloc(8);
  wanted.writeBigUInt64LE(BigInt(size));
  if (total < size || !tail.includes(wanted) || !tail.includes(Buffer.from([0x50, 0x4b, 6, 6])))
    throw new Error('the ZIP does not tell a size over 4 GB');
  line('memory for a ZIP with a file of 4.4 GB, at most', `+${Math.round((most - before) / 1e6)} MB`, ms(spent));
}
