/** A route by its operation: who asks, is the input right, one service call, and an answer after its schema. */
import type { z } from 'zod';
import type { Person } from '../../contract/api.ts';
import type { Ids, Operation } from '../../contract/operation.ts';
import { allMeant, meant } from '../sending/stand-in.ts';
import type { Incoming } from '../versions/checkin.ts';
import { asking, body, checked, json, open, personally, query, route, type Call, type Route } from './handler.ts';
import { withUpload, withUploads } from './multipart.ts';

/** What came in, checked: the ids of the path by their names, the query, the body, and the request itself. */
export type Received<O extends Operation> = Ids<O> &
  (O extends { query: infer Q extends z.ZodType } ? { readonly query: z.output<Q> } : unknown) &
  (O extends { body: infer B extends z.ZodType } ? { readonly body: z.output<B> } : unknown) & {
    readonly request: Request;
  };

/** What goes out: a whole answer of one's own, or what the schema of the answer takes. */
type Out<O extends Operation> = Response | (O extends { answer: infer A extends z.ZodType } ? z.input<A> : unknown);
type Fields<O extends Operation> = O extends { form: infer F extends z.ZodType } ? z.output<F> : never;

/** For who has signed in, as the operation says. */
export function serve<O extends Operation>(
  operation: O,
  work: (by: Person, given: Received<O>) => Promise<Out<O>>,
): Route {
  const answer = async (by: Person, call: Call): Promise<Response> =>
    respond(operation, await work(by, await given(operation, call)));
  if (operation.who === 'person') return personally(answer);
  if (operation.who === 'self') return personally(answer, { early: true });
  return operation.looks ? asking(answer) : route(answer);
}

/** For everyone, signed in or not. */
export const serveAnyone = <O extends Operation & { who: 'anyone' }>(
  operation: O,
  work: (given: Received<O>) => Promise<Out<O>>,
): Route => open(async (call) => respond(operation, await work(await given(operation, call))));

/** A form with one file. */
export const serveUpload = <O extends Operation>(
  operation: O,
  work: (by: Person, given: Received<O>, fields: Fields<O>, file: Incoming) => Promise<Out<O>>,
): Route =>
  route((by, call) =>
    withUpload(call.request, async (fields, file) =>
      respond(operation, await work(by, await given(operation, call), fieldsOf(operation, fields), meant(by, file))),
    ),
  );

/** A form with many files. */
export const serveUploads = <O extends Operation>(
  operation: O,
  work: (by: Person, given: Received<O>, fields: Fields<O>, files: AsyncIterable<Incoming>) => Promise<Out<O>>,
): Route =>
  route((by, call) =>
    withUploads(call.request, async (fields, files) =>
      respond(
        operation,
        await work(by, await given(operation, call), fieldsOf(operation, fields), allMeant(by, files)),
      ),
    ),
  );

/** The answer of an operation with another status, or more headers. */
export const answered = <O extends Operation & { answer: z.ZodType }>(
  operation: O,
  value: z.input<O['answer']>,
  { status = operation.status ?? 200, headers = {} }: { status?: number; headers?: Record<string, string> } = {},
): Response => json(operation.answer, value, status, headers);

async function given<O extends Operation>(operation: O, { request, url, params }: Call): Promise<Received<O>> {
  return {
    ...params,
    request,
    ...(operation.query ? { query: query(url, operation.query) } : {}),
    ...(operation.body ? { body: await body(request, operation.body) } : {}),
  } as Received<O>;
}

function respond(operation: Operation, value: unknown): Response {
  if (value instanceof Response) return value;
  if (!operation.answer) return new Response(null, { status: operation.status ?? 204 });
  return json(operation.answer, value, operation.status);
}

/** Forms send what was left empty as an empty text. */
function fieldsOf<O extends Operation>(operation: O, fields: Readonly<Record<string, string>>): Fields<O> {
  const filled = Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== ''));
  return (operation.form ? checked(operation.form, filled) : filled) as Fields<O>;
}
