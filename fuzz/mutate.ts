/**
 * Damages files in the ways in which files get damaged, and some that only malice thinks of. Everything follows from
 * the seed.
 */

export type Random = (n: number) => number;

/** mulberry32. */
export function randomFrom(seed: number): Random {
  let a = seed >>> 0;
  return (n) => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return Math.floor((((t ^ (t >>> 14)) >>> 0) / 4294967296) * n);
  };
}

const nasty = [
  '1e308',
  '-1e308',
  'NaN',
  'Infinity',
  '99999999999999999999',
  '-1',
  '0',
  '',
  '4294967296',
  '1e-320',
  '\u0000',
  '٣',
  '%s%n',
  '<!ENTITY a "&a;&a;">',
  '../../etc/passwd',
  'A'.repeat(5000),
  '0\nSECTION',
  '\r',
  '\n\n\n',
];

/** Bytes of `parent` after one to six mutations; `other` is a second file to take pieces from. */
export function mutate(parent: Uint8Array, other: Uint8Array, random: Random): Uint8Array {
  let bytes: Uint8Array = parent.slice();
  for (let n = 1 + random(6); n > 0; n--) bytes = step(bytes, other, random);
  return bytes.subarray(0, 400_000);
}

function step(bytes: Uint8Array, other: Uint8Array, random: Random): Uint8Array {
  const at = random(bytes.length + 1);
  const length = random(Math.min(400, bytes.length - at + 1));
  const splice = (cut: number, put: Uint8Array): Uint8Array => {
    const out = new Uint8Array(bytes.length - cut + put.length);
    out.set(bytes.subarray(0, at));
    out.set(put, at);
    out.set(bytes.subarray(at + cut), at + put.length);
    return out;
  };
  const text = (s: string): Uint8Array => new TextEncoder().encode(s);
  switch (random(10)) {
    case 0:
      return bytes.slice(0, at);
    case 1:
      return splice(length, new Uint8Array(0));
    case 2:
      return splice(0, bytes.slice(at, at + length));
    case 3: {
      const from = random(other.length + 1);
      return splice(length, other.slice(from, from + random(400)));
    }
    case 4: {
      const out = bytes.slice();
      for (let k = 0; k < 8 && out.length; k++) out[random(out.length)] = random(256);
      return out;
    }
    case 5: {
      const out = bytes.slice();
      if (out.length) {
        const k = random(out.length);
        out[k] = (out[k] as number) ^ (1 << random(8));
      }
      return out;
    }
    case 6:
      return splice(0, text(nasty[random(nasty.length)] as string));
    case 7:
      return line(bytes, random, () => text(nasty[random(nasty.length)] as string));
    case 8:
      return line(bytes, random, (old) => {
        const out = new Uint8Array(old.length * 2 + 1);
        out.set(old);
        out[old.length] = 10;
        out.set(old, old.length + 1);
        return out;
      });
    default:
      return line(bytes, random, () => text(String(random(1200))));
  }
}

/** One line replaced. */
function line(bytes: Uint8Array, random: Random, by: (old: Uint8Array) => Uint8Array): Uint8Array {
  let from = random(bytes.length + 1);
  while (from > 0 && bytes[from - 1] !== 10) from--;
  let to = from;
  while (to < bytes.length && bytes[to] !== 10) to++;
  const put = by(bytes.slice(from, to));
  const out = new Uint8Array(bytes.length - (to - from) + put.length);
  out.set(bytes.subarray(0, from));
  out.set(put, from);
  out.set(bytes.subarray(to), from + put.length);
  return out;
}
