/** A file in the clear text of ISO 10303-21 with records changed, taken out and put in; all others byte for byte. */
import { strToU8 } from 'fflate';
import { spliced } from '../splices.ts';
import type { Splice } from '../../../model/source.ts';
import type { StepFile } from './scan.ts';
import { refsOf } from './statement.ts';

export class Rewriting {
  readonly file: StepFile;
  private readonly bytes: Uint8Array;
  private readonly rewritten = new Map<number, string>();
  private readonly gone = new Set<number>();
  private readonly added = new Map<number, string>();
  private next: number;

  constructor(file: StepFile, bytes: Uint8Array) {
    this.file = file;
    this.bytes = bytes;
    let highest = 0;
    for (const id of file.ids()) highest = Math.max(highest, id);
    this.next = highest + 1;
  }

  isThere(id: number): boolean {
    return !this.gone.has(id) && (this.added.has(id) || this.file.typeOf(id) !== undefined);
  }

  /** A record as it stands now. */
  said(id: number): string {
    return this.added.get(id) ?? this.rewritten.get(id) ?? this.file.said(id);
  }

  freeNumber(): number {
    return this.next++;
  }

  add(id: number, said: string): void {
    this.added.set(id, said);
  }

  change(id: number, said: string): void {
    (this.added.has(id) ? this.added : this.rewritten).set(id, said);
  }

  remove(id: number): void {
    this.gone.add(id);
  }

  /** Numbers of all records that are left. */
  *ids(): Generator<number> {
    for (const id of this.file.ids()) if (!this.gone.has(id)) yield id;
    for (const id of this.added.keys()) if (!this.gone.has(id)) yield id;
  }

  /**
   * Takes out what records that went or changed referred to, and what that did, as far as nothing else refers to it.
   * `hangsOn`: of a record that only describes another one, that one; it goes with it.
   */
  clearUp(hangsOn: (id: number) => number | undefined): void {
    const uses = new Map<number, number>();
    const describing = new Map<number, number[]>();
    const pending: number[] = [];
    for (const id of this.ids()) {
      const described = hangsOn(id);
      if (described !== undefined) describing.set(described, [...(describing.get(described) ?? []), id]);
      for (const ref of refsOf(this.said(id))) if (ref !== described) uses.set(ref, (uses.get(ref) ?? 0) + 1);
    }
    for (const id of [...this.gone, ...this.rewritten.keys()]) pending.push(...refsOf(this.file.said(id)));
    const drop = (id: number): void => {
      this.gone.add(id);
      for (const ref of refsOf(this.said(id))) {
        uses.set(ref, (uses.get(ref) ?? 1) - 1);
        pending.push(ref);
      }
    };
    for (let id = pending.pop(); id !== undefined; id = pending.pop()) {
      if ((uses.get(id) ?? 0) > 0 || !this.isThere(id)) continue;
      drop(id);
      for (const about of describing.get(id) ?? []) if (this.isThere(about)) drop(about);
    }
  }

  made(): Uint8Array {
    const splices: Splice[] = [];
    for (const id of this.gone) {
      const [start, end] = this.file.span(id);
      if (end > 0) splices.push({ start, end: this.behindLine(end), bytes: new Uint8Array(0) });
    }
    for (const [id, said] of this.rewritten) {
      const [start, end] = this.file.span(id);
      if (!this.gone.has(id)) splices.push({ start, end, bytes: strToU8(said, true) });
    }
    const lines = [...this.added].flatMap(([id, said]) => (this.gone.has(id) ? [] : [`\n${said}`]));
    const { end } = this.file;
    if (lines.length > 0) splices.push({ start: end, end, bytes: strToU8(lines.join(''), true) });
    return spliced(
      this.bytes,
      splices.sort((a, b) => a.start - b.start || a.end - b.end),
    );
  }

  /** The end of its line goes with a record that goes; that of the last one stays. */
  private behindLine(end: number): number {
    if (end === this.file.end) return end;
    let at = end;
    if (this.bytes[at] === 13) at += 1;
    return this.bytes[at] === 10 ? at + 1 : end;
  }
}
