/** What runs in a worker thread, away from requests: pure functions from bytes to results. */

/** Bytes with a name whose ending may promise a format. */
export interface Source {
  readonly bytes: Uint8Array;
  readonly name: string;
}

/** Bytes that are fetched when their turn comes. */
export class ToLoad {
  readonly size: number;
  readonly load: () => Promise<Source>;

  constructor(size: number, load: () => Promise<Source>) {
    this.size = size;
    this.load = load;
  }
}

type Late<Value> = Value extends Source
  ? Value | ToLoad
  : Value extends readonly Source[]
    ? readonly (Source | ToLoad)[]
    : Value;

/** An input of which some bytes are still to be fetched. */
export type Unloaded<Input> = { readonly [Key in keyof Input]: Late<Input[Key]> };

const toLoadIn = (value: unknown): ToLoad[] => {
  if (value instanceof ToLoad) return [value];
  return Array.isArray(value) ? value.flatMap(toLoadIn) : [];
};

/** Bytes of an input, whether they are here or not. */
export const sizeOf = (input: object): number =>
  [
    ...Object.values(input)
      .flatMap(toLoadIn)
      .map(({ size }) => size),
    ...bytesIn(input).map(({ length }) => length),
  ].reduce((sum, size) => sum + size, 0);

async function loadedValue(value: unknown): Promise<unknown> {
  if (value instanceof ToLoad) return value.load();
  return Array.isArray(value) && toLoadIn(value).length > 0 ? Promise.all(value.map(loadedValue)) : value;
}

export async function loaded<Input extends object>(input: Unloaded<Input>): Promise<Input> {
  const entries = Object.entries(input).map(async ([key, value]) => [key, await loadedValue(value)] as const);
  return Object.fromEntries(await Promise.all(entries)) as Input;
}

/** What a task knows while it works, told to whoever waits for it. */
export type Report = (soFar: unknown) => void;

/** A result some of whose memory goes with it instead of being copied. */
export class WithMemory<Value> {
  readonly value: Value;
  readonly memory: readonly ArrayBuffer[];

  constructor(value: Value, memory: readonly ArrayBuffer[]) {
    this.value = value;
    this.memory = memory;
  }
}

export type Task<Input, Result> = (input: Input, report: Report) => Result | WithMemory<Result> | Promise<Result>;

/** All bytes that go with an input. */
export function bytesIn(input: unknown): Uint8Array[] {
  if (input instanceof Uint8Array) return [input];
  if (Array.isArray(input)) return input.flatMap(bytesIn);
  if (input === null || typeof input !== 'object') return [];
  return Object.values(input).flatMap(bytesIn);
}
