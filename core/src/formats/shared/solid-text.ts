/** Numbers that become more and more, in one array. */
import { ReadError } from '../../model/problem.ts';

export class Numbers {
  private numbers = new Float64Array(4096);
  private readonly most: number;
  length = 0;

  /** More than `most` are refused. */
  constructor(most: number) {
    this.most = most;
  }

  push(value: number): void {
    if (this.length >= this.most)
      throw new ReadError('The model has more triangles than Ovrel looks into.', undefined, 'too-large');
    if (this.length === this.numbers.length) {
      const more = new Float64Array(2 * this.length);
      more.set(this.numbers);
      this.numbers = more;
    }
    this.numbers[this.length++] = value;
  }

  drop(count: number): void {
    this.length -= count;
  }

  at(index: number): number {
    return this.numbers[index] as number;
  }

  finish(): Float64Array {
    return this.numbers.slice(0, this.length);
  }
}

/** What a comment says of a program; nothing where it only names the model. */
export const programIn = (comment: string): { readonly program?: string } =>
  /\b(?:by|from|with|export\w*|generat\w*|creat\w*|written)\b|\bv?\d+\.\d+/i.test(comment)
    ? { program: comment.trim().slice(0, 80) }
    : {};

/** What is no number has no place; `at` is where it stands in the file. */
export function finite(value: number, at: number | undefined): number {
  if (!Number.isFinite(value)) throw new ReadError('A point stands nowhere: its place is no number.', at);
  return value;
}

/** The lines of a text, one by one, each with where it begins: nothing of a large text is held twice. */
export function* linesOf(bytes: Uint8Array): Generator<{ readonly line: string; readonly at: number }> {
  const decoder = new TextDecoder('latin1');
  for (let at = 0; at < bytes.length;) {
    const end = bytes.indexOf(10, at);
    const next = end < 0 ? bytes.length : end + 1;
    yield { line: decoder.decode(bytes.subarray(at, next)), at };
    at = next;
  }
}
