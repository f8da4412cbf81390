/**
 * What an operation of /api/v1 is. The routes answer by it, the browser calls by it, and the OpenAPI document is made
 * from it, so that none of the three can say something else than the others.
 */
import type { z } from 'zod';

export interface Operation {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** Below /api/v1, with `{fileId}` where an id stands. */
  readonly path: string;
  readonly summary: string;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType;
  /** Fields of a multipart form that ends with `file`. */
  readonly form?: z.ZodObject;
  readonly answer?: z.ZodType;
  /** Status of success; 200 without it. */
  readonly status?: number;
  /** Media type of an answer that is not JSON. */
  readonly bytes?: string;
  /**
   * Anyone at all; people only and no program with a token (`self`: also those who have to change their password
   * first); without it both who have signed in.
   */
  readonly who?: 'anyone' | 'person' | 'self';
  /** It only looks, though its question comes as a body: tokens for reading open it, too. */
  readonly looks?: true;
}

export type Operations = Readonly<Record<string, Operation>>;

type Named<Path extends string> = Path extends `${string}{${infer Name}}${infer Rest}` ? Name | Named<Rest> : never;
/** The ids that stand in the path, by their names. */
export type Ids<O extends Operation> = { readonly [Name in Named<O['path']>]: string };
/** What comes out, as it is received. */
export type Answer<O extends Operation> = O extends { answer: infer A extends z.ZodType } ? z.output<A> : undefined;
/** The same, of which nothing can be changed. */
type Whole<T> = T extends readonly (infer Item)[]
  ? readonly Whole<Item>[]
  : T extends object
    ? { readonly [Key in keyof T]: Whole<T[Key]> }
    : T;
/** What a caller gives: the ids of the path, the query and the body. */
export type Input<O extends Operation> = Ids<O> &
  (O extends { query: infer Q extends z.ZodType } ? { readonly query?: Whole<z.input<Q>> } : unknown) &
  (O extends { body: infer B extends z.ZodType } ? { readonly body: Whole<z.input<B>> } : unknown);

type Given = Readonly<Record<string, unknown>> & {
  readonly query?: Readonly<Record<string, string | number | undefined>>;
};

/** Path and query of an operation, below /api/v1. What is undefined in the query is left out. */
export function addressOf<O extends Operation>(operation: O, input: Omit<Input<O>, 'body'>): string {
  const { query = {}, ...ids } = input as Given;
  const path = operation.path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(String(ids[name])));
  const asked = new URLSearchParams();
  for (const [name, value] of Object.entries(query)) if (value !== undefined) asked.set(name, String(value));
  return asked.size > 0 ? `${path}?${asked}` : path;
}

/** The same as a link that a browser follows. */
export const linkTo = <O extends Operation>(operation: O, input: Omit<Input<O>, 'body'>): string =>
  `/api/v1${addressOf(operation, input)}`;

/** What is wrong with a value, as sentences. Schemas may say whole sentences themselves. */
export const sayIssues = ({ issues }: z.ZodError): string => issues.map(sayIssue).join(' ');

const sayIssue = ({ path, message }: z.core.$ZodIssue): string =>
  path.length > 0 && !/^[A-Z].*\.$/.test(message) ? `${path.join('.')}: ${message}` : message;
