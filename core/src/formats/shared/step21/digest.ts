/** What a record says with all that it refers to, in a few letters: equal however records are numbered. */
import { hashText } from '../../../geometry/hash.ts';
import type { StepFile } from './scan.ts';
import { Enumerated, Ref, Typed, type Value } from './values.ts';

/** Records within records. */
const DEEPEST = 200;

export class Digests {
  private readonly file: StepFile;
  private readonly known = new Map<number, string>();

  constructor(file: StepFile) {
    this.file = file;
  }

  of(id: number, depth = 0): string {
    const known = this.known.get(id);
    if (known !== undefined) return known;
    if (depth > DEEPEST) return '…';
    // Records that refer to one another in a circle end here.
    this.known.set(id, '…');
    const said = this.file.calls(id).map(({ type, values }) => `${type}${this.list(values, depth)}`);
    const digest = hashText(said.join(' '));
    this.known.set(id, digest);
    return digest;
  }

  private list(values: readonly Value[], depth: number): string {
    return `(${values.map((value) => this.value(value, depth)).join(',')})`;
  }

  private value(value: Value, depth: number): string {
    if (value instanceof Ref) return this.of(value.id, depth + 1);
    if (value instanceof Enumerated) return `.${value.name}.`;
    if (value instanceof Typed) return `${value.type}(${this.value(value.value, depth)})`;
    if (Array.isArray(value)) return this.list(value as readonly Value[], depth);
    return JSON.stringify(value);
  }
}
