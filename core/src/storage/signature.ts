/**
 * Signatures: what one has to know of a content to send only what is new beside it. The content is told as blocks, each
 * by a sum that can be rolled along a file and by a hash (Tridgell and Mackerras, "The rsync algorithm", 1996). Whoever
 * rebuilds a content from what was sent checks it by its SHA-256: two blocks that are mistaken for one another are
 * found out.
 */
import type { Delta } from './delta.ts';
import { Pieces } from './pieces.ts';

/** "OVS1", block size and size of the content (4 + 4 + 8 bytes), then 12 bytes a block, all big-endian. */
const MAGIC = 0x4f565331;
const HEAD = 16;
const ENTRY = 12;
const SMALLEST = 256;
const LARGEST = 8192;
const { imul } = Math;

/** Larger contents have larger blocks, so that their signatures stay small beside them. */
export function blockSizeFor(size: number): number {
  const wanted = Math.sqrt(size) / 8;
  return Math.min(LARGEST, Math.max(SMALLEST, 2 ** Math.round(Math.log2(Math.max(1, wanted)))));
}

export function signatureOf(bytes: Uint8Array, block = blockSizeFor(bytes.length)): Uint8Array {
  const blocks = Math.floor(bytes.length / block);
  const out = new Uint8Array(HEAD + blocks * ENTRY);
  const view = new DataView(out.buffer);
  view.setUint32(0, MAGIC);
  view.setUint32(4, block);
  view.setBigUint64(8, BigInt(bytes.length));
  for (let k = 0; k < blocks; k++) {
    const at = HEAD + k * ENTRY;
    view.setUint32(at, rollingSum(bytes, k * block, block));
    const [first, second] = hashOf(bytes, k * block, block);
    view.setUint32(at + 4, first);
    view.setUint32(at + 8, second);
  }
  return out;
}

/** What a content is beside the one of a signature: runs of that one, and new bytes. Throws RangeError for no signature. */
export function deltaFromSignature(signature: Uint8Array, target: Uint8Array): Delta {
  const known = new KnownBlocks(signature);
  const { block } = known;
  const runs = new Runs(target);
  let at = 0;
  let sum = target.length >= block ? rollingSum(target, 0, block) : 0;
  while (at + block <= target.length) {
    const found = known.find(sum, target, at, runs.expected(at));
    if (found < 0) {
      if (at + block < target.length) sum = rolled(sum, block, target[at] as number, target[at + block] as number);
      at += 1;
      continue;
    }
    runs.copy(at, found * block, block);
    at += block;
    if (at + block <= target.length) sum = rollingSum(target, at, block);
  }
  return runs.finish();
}

/** Lower half: sum of the bytes; upper half: sum of these sums. */
function rollingSum(bytes: Uint8Array, from: number, length: number): number {
  let a = 0;
  let b = 0;
  for (let k = from; k < from + length; k++) {
    a = (a + (bytes[k] as number)) & 0xffff;
    b = (b + a) & 0xffff;
  }
  return ((b << 16) | a) >>> 0;
}

function rolled(sum: number, length: number, gone: number, come: number): number {
  const a = ((sum & 0xffff) - gone + come) & 0xffff;
  const b = ((sum >>> 16) - imul(length, gone) + a) & 0xffff;
  return ((b << 16) | a) >>> 0;
}

/** 64 bits in two halves; no cryptographic hash. */
function hashOf(bytes: Uint8Array, from: number, length: number): readonly [number, number] {
  let first = 0x811c9dc5;
  let second = 0x9747b28c;
  for (let k = from; k < from + length; k++) {
    const byte = bytes[k] as number;
    first = imul(first ^ byte, 0x01000193);
    second = imul(second ^ byte, 0x5bd1e995);
    second ^= second >>> 15;
  }
  return [first >>> 0, second >>> 0];
}

/** Blocks of a signature, found by their sum. */
class KnownBlocks {
  readonly block: number;
  private readonly view: DataView;
  private readonly count: number;
  /** Places of blocks by some bits of their sum, the first of equal ones; chained by `next`. */
  private readonly heads: Int32Array;
  private readonly next: Int32Array;
  private readonly mask: number;

  constructor(signature: Uint8Array) {
    this.view = new DataView(signature.buffer, signature.byteOffset, signature.byteLength);
    if (signature.length < HEAD || this.view.getUint32(0) !== MAGIC) throw new RangeError('This is no signature.');
    this.block = this.view.getUint32(4);
    this.count = Math.floor((signature.length - HEAD) / ENTRY);
    if (this.block < 1) throw new RangeError('This is no signature.');
    const size = 2 ** Math.ceil(Math.log2(this.count * 2 + 2));
    this.mask = size - 1;
    this.heads = new Int32Array(size).fill(-1);
    this.next = new Int32Array(this.count).fill(-1);
    for (let k = this.count - 1; k >= 0; k--) {
      const slot = this.slotOf(this.sumOf(k));
      this.next[k] = this.heads[slot] as number;
      this.heads[slot] = k;
    }
  }

  /** The block that stands at a place of the target, rather the expected one; -1 where none does. */
  find(sum: number, target: Uint8Array, at: number, expected: number): number {
    let k = this.heads[this.slotOf(sum)] as number;
    let found = -1;
    let hash: readonly [number, number] | undefined;
    // Many equal blocks, as of a file of zeros, are not looked through to the end.
    for (let tried = 0; k >= 0 && tried < 64; k = this.next[k] as number, tried++) {
      if (this.sumOf(k) !== sum) continue;
      hash ??= hashOf(target, at, this.block);
      if (this.view.getUint32(HEAD + k * ENTRY + 4) !== hash[0]) continue;
      if (this.view.getUint32(HEAD + k * ENTRY + 8) !== hash[1]) continue;
      if (found < 0) found = k;
      if (k * this.block === expected) return k;
    }
    return found;
  }

  private readonly sumOf = (k: number): number => this.view.getUint32(HEAD + k * ENTRY);
  private readonly slotOf = (sum: number): number => (imul(sum, 0x9e3779b1) >>> 7) & this.mask;
}

/** Runs of the base as they come, those that follow one another as one, and the new bytes between. */
class Runs {
  private readonly target: Uint8Array;
  private readonly pieces = new Pieces();
  private readonly fresh: Uint8Array[] = [];
  private freshSize = 0;
  /** Target bytes that are told already. */
  private told = 0;
  private run = { from: 0, length: 0 };

  constructor(target: Uint8Array) {
    this.target = target;
  }

  /** Where in the base the byte at a place of the target would be, if the last run went on. */
  expected(at: number): number {
    return this.run.from + this.run.length + (at - this.told - this.run.length);
  }

  copy(at: number, from: number, length: number): void {
    const goesOn = at === this.told + this.run.length && from === this.run.from + this.run.length;
    if (goesOn) {
      this.run.length += length;
      return;
    }
    this.flush();
    this.literal(at);
    this.run = { from, length };
  }

  finish(): Delta {
    this.flush();
    this.literal(this.target.length);
    const pool = new Uint8Array(this.freshSize);
    let at = 0;
    for (const bytes of this.fresh) {
      pool.set(bytes, at);
      at += bytes.length;
    }
    return { pieces: this.pieces, pool };
  }

  private flush(): void {
    if (this.run.length > 0) this.pieces.add(this.run.length, this.run.from);
    this.told += this.run.length;
    this.run = { from: this.run.from + this.run.length, length: 0 };
  }

  private literal(end: number): void {
    if (end <= this.told) return;
    const bytes = this.target.subarray(this.told, end);
    this.pieces.add(bytes.length, -1 - this.freshSize);
    this.fresh.push(bytes);
    this.freshSize += bytes.length;
    this.told = end;
  }
}
