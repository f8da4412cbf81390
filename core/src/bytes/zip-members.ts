/**
 * Members of a ZIP as they are packed, so that those that nobody names come into another one byte for byte
 * (APPNOTE.TXT 6.3.10, 4.3).
 */
import { zipSync } from 'fflate';
import { concat } from './concat.ts';

export interface PackedMember {
  readonly name: string;
  /** Its local header and its data. */
  readonly local: Uint8Array;
  /** Its entry in the list at the end. */
  readonly entry: Uint8Array;
}

const LIST_END = 0x06054b50;
const LIST_ENTRY = 0x02014b50;
const ENTRY_LENGTH = 46;
const END_LENGTH = 22;
const MOST_COMMENT = 0xffff;
const PLACE_IN_ENTRY = 42;

/** In the order of its list; undefined for what is no ZIP, or one of more than 4 GB. */
export function packedMembers(bytes: Uint8Array): PackedMember[] | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const end = endOfList(view);
  if (end === undefined) return undefined;
  const count = view.getUint16(end + 10, true);
  const listAt = view.getUint32(end + 16, true);
  const found: { name: string; at: number; entry: Uint8Array }[] = [];
  let at = listAt;
  for (let k = 0; k < count; k++) {
    if (at + ENTRY_LENGTH > end || view.getUint32(at, true) !== LIST_ENTRY) return undefined;
    const nameLength = view.getUint16(at + 28, true);
    const length = ENTRY_LENGTH + nameLength + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
    const name = new TextDecoder().decode(bytes.subarray(at + ENTRY_LENGTH, at + ENTRY_LENGTH + nameLength));
    found.push({ name, at: view.getUint32(at + PLACE_IN_ENTRY, true), entry: bytes.subarray(at, at + length) });
    at += length;
  }
  const places = [...new Set([...found.map((m) => m.at), listAt])].sort((a, b) => a - b);
  const nextOf = new Map(places.map((place, k) => [place, places[k + 1] ?? listAt]));
  return found.map(({ name, at: start, entry }) => {
    return { name, local: bytes.subarray(start, nextOf.get(start)), entry };
  });
}

function endOfList(view: DataView): number | undefined {
  const last = view.byteLength - END_LENGTH;
  for (let at = last; at >= Math.max(0, last - MOST_COMMENT); at--)
    if (view.getUint32(at, true) === LIST_END) return at;
  return undefined;
}

/** A member with content that is not compressed any further. */
export function newMember(name: string, content: Uint8Array): PackedMember {
  const packed = packedMembers(zipSync({ [name]: [content, { level: 0 }] }, { mtime: new Date(1980, 0, 1) }));
  return packed?.[0] as PackedMember;
}

/** A ZIP of these members, in this order. */
export function zipOf(members: readonly PackedMember[]): Uint8Array {
  const entries: Uint8Array[] = [];
  let place = 0;
  for (const { local, entry } of members) {
    const placed = entry.slice();
    new DataView(placed.buffer).setUint32(PLACE_IN_ENTRY, place, true);
    entries.push(placed);
    place += local.length;
  }
  const end = new Uint8Array(END_LENGTH);
  const view = new DataView(end.buffer);
  view.setUint32(0, LIST_END, true);
  view.setUint16(8, members.length, true);
  view.setUint16(10, members.length, true);
  view.setUint32(
    12,
    entries.reduce((n, e) => n + e.length, 0),
    true,
  );
  view.setUint32(16, place, true);
  return concat([...members.map((m) => m.local), ...entries, end]);
}
