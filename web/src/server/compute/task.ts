/** What runs in a worker thread, away from requests: pure functions from bytes to results. */

/** Bytes with a name whose ending may promise a format. */
export interface Source {
  readonly bytes: Uint8Array;
  readonly name: string;
}

/** What a task knows while it works, told to whoever waits for it. */
export type Report = (soFar: unknown) => void;

export type Task<Input, Result> = (input: Input, report: Report) => Result | Promise<Result>;

/** All bytes that go with an input. */
export function bytesIn(input: unknown): Uint8Array[] {
  if (input instanceof Uint8Array) return [input];
  if (Array.isArray(input)) return input.flatMap(bytesIn);
  if (input === null || typeof input !== 'object') return [];
  return Object.values(input).flatMap(bytesIn);
}
