/** What every route does: who asks, is the input right, one service call, known failures as problem details. */
import { z } from 'zod';
import type { Person } from '../../contract/api.ts';
import { sayIssues } from '../../contract/operation.ts';
import { Abandoned, waitedForBy } from '../compute/waiting.ts';
import { asBusy, Busy } from '../db/pool.ts';
import { log } from '../log.ts';
import { withOrigin } from '../ledger/origin.ts';
import { callerOf, personOf } from '../people/service.ts';
import { notFound, Problem } from '../problem.ts';
import { LARGEST_BODY, textOf } from './body.ts';
import { readCookie, SESSION_COOKIE } from './session-cookie.ts';

export interface Call<P extends string = string> {
  readonly request: Request;
  readonly url: URL;
  readonly params: Readonly<Record<P, string>>;
}

type Context = { params: Promise<Record<string, string>> };
export type Route = (request: Request, context: Context) => Promise<Response>;

/** A route for people who have signed in. */
export const route = (work: (by: Person, call: Call) => Promise<Response>): Route =>
  open(async (call) => work(await caller(call, call.request.method !== 'GET'), call));

/** A route that only looks, though its question comes as a body: tokens for reading open it too. */
export const asking = (work: (by: Person, call: Call) => Promise<Response>): Route =>
  open(async (call) => work(await caller(call, false), call));

async function caller({ request }: Call, changes: boolean): Promise<Person> {
  const by = await callerOf({
    cookie: readCookie(request.headers.get('cookie'), SESSION_COOKIE),
    authorization: request.headers.get('authorization'),
    changes,
  });
  if (!by) throw signInFirst();
  return by;
}

/** A route for people themselves, not for programs with a token; with `early` also before they have changed a password. */
export const personally = (
  work: (by: Person, call: Call) => Promise<Response>,
  when: { readonly early?: boolean } = {},
): Route =>
  open(async (call) => {
    if (/^Bearer /i.test(call.request.headers.get('authorization') ?? '')) throw notByToken();
    const by = await personOf(readCookie(call.request.headers.get('cookie'), SESSION_COOKIE), when);
    if (!by) throw signInFirst();
    return work(by, call);
  });

/** A route for everyone. */
export function open(work: (call: Call) => Promise<Response>): Route {
  return async (request, context) => {
    try {
      refuseForeignOrigin(request);
      const params = ((await context.params) as Record<string, string> | undefined) ?? {};
      for (const [name, value] of Object.entries(params)) if (/Id$/.test(name)) checkId(name, value);
      const call = { request, url: new URL(request.url), params };
      return await withOrigin(request.headers, () => waitedForBy(request.signal, () => work(call)));
    } catch (error) {
      return problemResponse(toProblem(error, `${request.method} ${new URL(request.url).pathname}`));
    }
  };
}

export const signInFirst = (): Problem =>
  new Problem(401, 'sign-in-first', 'Sign in first: your session has ended or never began.');

const notByToken = (): Problem =>
  new Problem(403, 'person-only', 'An access token does not open this: sign in and do it yourself, in the browser.');

const UUID = /^[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}$/i;

/** Ids that cannot exist are "not found", not a failure of the database. */
export function checkId(name: string, value: string): void {
  if (!UUID.test(value)) throw notFound(name.replace(/Id$/, ''));
}

/** SameSite cookies keep other sites out; this refuses what still claims to come from one. */
function refuseForeignOrigin(request: Request): void {
  const origin = request.headers.get('origin');
  if (request.method === 'GET' || request.method === 'HEAD' || !origin) return;
  const host = request.headers.get('x-forwarded-host') ?? request.headers.get('host');
  if (!URL.canParse(origin) || new URL(origin).host !== host)
    throw new Problem(403, 'foreign-origin', 'The request comes from another site and was refused.');
}

export function toProblem(error: unknown, where: string): Problem {
  if (error instanceof Problem) return error;
  if (error instanceof Abandoned) return new Problem(503, 'abandoned', 'Nobody waited for this any more.');
  const id = crypto.randomUUID().slice(0, 8);
  log.error({ id, where, error: error instanceof Error ? error.stack : String(error) }, 'a request failed');
  if (asBusy(error) instanceof Busy)
    return new Problem(503, 'busy', 'Ovrel is busy with other requests. Nothing was stored; try again in a minute.');
  return new Problem(
    500,
    'failed',
    `Something went wrong here, and nothing was changed. If it happens again, tell an administrator the number ${id}.`,
  );
}

const titles: Readonly<Record<number, string>> = {
  400: 'Bad input',
  401: 'Sign in first',
  403: 'Not allowed',
  404: 'Not found',
  409: 'In conflict',
  413: 'Too large',
  415: 'Not supported',
  422: 'Not right',
  429: 'Too many attempts',
  503: 'Busy',
};

export const problemBody = (p: Problem): Record<string, unknown> => ({
  type: `/problems/${p.code}`,
  title: titles[p.status] ?? 'Failed',
  status: p.status,
  detail: p.message,
  ...p.extra,
});

const problemResponse = (p: Problem): Response =>
  new Response(JSON.stringify(problemBody(p)), {
    status: p.status,
    headers: { 'content-type': 'application/problem+json', 'cache-control': 'no-store' },
  });

/** What somebody sent, if it is what is asked for. */
export function checked<S extends z.ZodType>(schema: S, value: unknown): z.output<S> {
  if (holdsUnkeepable(value))
    throw new Problem(400, 'bad-input', 'A text contains a character that cannot be kept: NUL, or half of one.');
  const found = schema.safeParse(value);
  if (found.success) return found.data;
  throw new Problem(400, 'bad-input', sayIssues(found.error));
}

/** PostgreSQL keeps no text with NUL, and cannot look into JSON with half of a pair of UTF-16. */
function holdsUnkeepable(value: unknown): boolean {
  const waiting = [value];
  while (waiting.length > 0) {
    const next = waiting.pop();
    if (typeof next === 'string' && (next.includes('\0') || !next.isWellFormed())) return true;
    if (typeof next === 'object' && next !== null) for (const entry of Object.entries(next)) waiting.push(...entry);
  }
  return false;
}

export async function body<S extends z.ZodType>(request: Request, schema: S): Promise<z.output<S>> {
  return checked(schema, parsed(await textOf(request, LARGEST_BODY)));
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new Problem(400, 'bad-input', 'The request needs a body in JSON.');
  }
}

export const query = <S extends z.ZodType>(url: URL, schema: S): z.output<S> =>
  checked(schema, Object.fromEntries(url.searchParams));

/**
 * Checked against its schema on the way out, so that the documentation cannot drift from the answers. One that does
 * not fit is our failure: a 500.
 */
export const json = <S extends z.ZodType>(
  schema: S,
  value: z.input<S>,
  status = 200,
  headers: Record<string, string> = {},
): Response =>
  new Response(JSON.stringify(schema.parse(value)), {
    status,
    headers: { 'content-type': 'application/json', 'cache-control': 'no-store', ...headers },
  });
