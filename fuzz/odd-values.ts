/**
 * Values for an interface that nobody expects: by a JSON schema, and past it. Everything follows from the random
 * numbers.
 */
import type { Random } from './mutate.ts';

/** The part of JSON Schema that the operations use. */
export interface Schema {
  readonly type?: string;
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly format?: string;
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly items?: Schema;
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly additionalProperties?: Schema | boolean;
  readonly required?: readonly string[];
}

export interface Source {
  readonly random: Random;
  /** Ids of things that there are. */
  readonly ids: readonly string[];
}

const ODD_TEXTS = [
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\ud800',
  '\ufffe\u202e',
  '../../etc/passwd',
  'CON',
  '%00%2e%2e',
  "'; drop table version; --",
  '[::1]',
  '9'.repeat(400),
  'é'.repeat(5000),
  '٣',
  '2026-02-31',
  '-292277022657-01-27',
  'NaN',
  '{}',
  '\\',
  '%',
  '_',
];
const ODD_NUMBERS = [0, -0, -1, 0.5, 1e-320, 2 ** 31, 2 ** 53, 2 ** 63, -(2 ** 63), 1e308, -1e308];
const ODD_VALUES: readonly unknown[] = [null, true, false, [], {}, [[]], [null], { length: -1 }, { toString: 1 }];

const DEEPEST = 20_000;

export const oneOf = <Value>({ random }: Source, values: readonly Value[]): Value =>
  values[random(values.length)] as Value;

/** Once in so many times. */
export const once = ({ random }: Source, times: number): boolean => random(times) === 0;

export const oddText = (source: Source): string => oneOf(source, ODD_TEXTS);

function odd(source: Source): unknown {
  const kind = source.random(4);
  if (kind === 0) return oneOf(source, ODD_TEXTS);
  if (kind === 1) return oneOf(source, ODD_NUMBERS);
  if (kind === 2) return oneOf(source, source.ids);
  return oneOf(source, ODD_VALUES);
}

/** A value that mostly fits its schema. */
export function valueFor(schema: Schema, source: Source): unknown {
  if (once(source, 8)) return odd(source);
  if (schema.const !== undefined) return schema.const;
  if (schema.enum) return oneOf(source, schema.enum);
  const choices = schema.anyOf ?? schema.oneOf;
  if (choices) return valueFor(oneOf(source, choices), source);
  const make = makers[schema.type ?? ''];
  return make ? make(schema, source) : odd(source);
}

const makers: Readonly<Record<string, (schema: Schema, source: Source) => unknown>> = {
  null: () => null,
  boolean: (_, { random }) => random(2) === 0,
  integer: (_, source) => (once(source, 3) ? oneOf(source, ODD_NUMBERS) : source.random(100)),
  number: (_, source) => (once(source, 3) ? oneOf(source, ODD_NUMBERS) : source.random(100_000) / 1000),
  string: textFor,
  array: ({ items = {} }, source) => Array.from({ length: source.random(4) }, () => valueFor(items, source)),
  object: objectFor,
};

function textFor({ format }: Schema, source: Source): string {
  if (format === 'uuid') return once(source, 6) ? oddText(source) : oneOf(source, source.ids);
  if (format === 'email') return `person${source.random(1000)}@quillmere.example`;
  if (format === 'date-time') return new Date(source.random(2 ** 31) * 1000).toISOString();
  if (once(source, 3)) return oddText(source);
  return once(source, 3) ? oneOf(source, source.ids) : `text ${source.random(1000)}`;
}

function objectFor({ properties = {}, additionalProperties, required = [] }: Schema, source: Source): unknown {
  const made: Record<string, unknown> = {};
  for (const [name, schema] of Object.entries(properties)) {
    const leftOut = once(source, required.includes(name) ? 20 : 2);
    if (!leftOut) made[name] = valueFor(schema, source);
  }
  if (typeof additionalProperties === 'object') made[oddText(source)] = valueFor(additionalProperties, source);
  if (once(source, 20)) made[oddText(source)] = odd(source);
  return made;
}

/**
 * A body as text: mostly JSON of its schema, at times something that is none, or one that is nested deeper than
 * anybody reads.
 */
export function bodyFor(schema: Schema, source: Source): string {
  if (once(source, 60)) return '['.repeat(DEEPEST) + ']'.repeat(DEEPEST);
  if (once(source, 60)) return oddText(source);
  const text = JSON.stringify(valueFor(schema, source)) ?? '';
  return once(source, 40) ? text.slice(0, source.random(text.length + 1)) : text;
}
