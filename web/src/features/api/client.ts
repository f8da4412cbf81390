import { z } from 'zod';
import { addressOf, sayIssues, type Answer, type Input, type Operation } from '../../contract/operation.ts';

/** Calls to /api/v1. A refusal comes back as a Refused with the sentence for the person. */
export class Refused extends Error {
  readonly status: number;
  readonly code: string;
  readonly extra: Readonly<Record<string, unknown>>;

  constructor(status: number, code: string, sentence: string, extra: Readonly<Record<string, unknown>> = {}) {
    super(sentence);
    this.status = status;
    this.code = code;
    this.extra = extra;
  }
}

/** No answer came. Of what only looks that is all; of what changes something, it may have been done. */
export const unreachable = (looks: boolean): Refused =>
  new Refused(
    0,
    'unreachable',
    looks
      ? 'Ovrel cannot be reached just now. Check the connection and try again.'
      : 'Ovrel cannot be reached just now. Check the connection, look whether it was done, and try again.',
  );

/** The refusal that an answer tells of. */
export function refusal(status: number, text: string): Refused {
  try {
    const { type, detail, ...extra } = JSON.parse(text) as { type: string; detail: string };
    return new Refused(status, type.replace('/problems/', ''), detail, extra);
  } catch {
    return new Refused(
      status,
      'failed',
      'Ovrel gave no usable answer. Try again; if it goes on, tell an administrator.',
    );
  }
}

/** The most letters of a request that a browser carries to its end when its page is left; some need several bytes. */
const MOST_KEPT_ALIVE = 16_384;

/**
 * Asks for one operation; what comes back is checked against its schema. A small change that was asked for is made
 * also when the page is left in the same moment.
 */
export async function call<O extends Operation>(operation: O, input: Input<O>): Promise<Answer<O>> {
  const { body } = input as { body?: unknown };
  const text = body === undefined ? undefined : JSON.stringify(body);
  const response = await fetch(`/api/v1${addressOf(operation, input)}`, {
    method: operation.method.toUpperCase(),
    keepalive: operation.method !== 'get' && (text?.length ?? 0) <= MOST_KEPT_ALIVE,
    ...(text === undefined ? {} : { body: text, headers: { 'content-type': 'application/json' } }),
  }).catch(() => {
    throw unreachable(operation.method === 'get');
  });
  if (!response.ok) throw refusal(response.status, await response.text());
  return answerOf(operation, response.status === 204 ? undefined : await response.json());
}

/** A page that was loaded before an update may not understand the answers of after it. */
export function answerOf<O extends Operation>(operation: O, value: unknown): Answer<O> {
  const found = operation.answer?.safeParse(value);
  if (found?.success === false)
    throw new Refused(
      0,
      'not-understood',
      'Ovrel’s answer was not understood. It may have been updated meanwhile: load the page again.',
    );
  return found?.data as Answer<O>;
}

/** What stands in a form, as a schema wants it; what is wrong is said in the schema's own sentences. */
export function filledIn<S extends z.ZodType>(schema: S, form: FormData): z.output<S> {
  const found = schema.safeParse(Object.fromEntries(form));
  if (!found.success) throw new Refused(400, 'bad-input', sayIssues(found.error));
  return found.data;
}

/** The last line of an answer that could not be finished. */
const problemSchema = z.object({ problem: z.string() });

/** An answer that comes line by line while the work goes on; resolves after the last. */
export async function lines<S extends z.ZodType>(
  path: string,
  schema: S,
  onLine: (value: z.output<S>) => void,
  signal: AbortSignal,
): Promise<void> {
  const response = await fetch(`/api/v1${path}`, { signal, headers: { accept: 'application/x-ndjson' } });
  if (!response.ok) throw refusal(response.status, await response.text());
  const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (let piece = await reader?.read(); piece && !piece.done; piece = await reader?.read()) {
    const whole = `${rest}${piece.value}`.split('\n');
    rest = whole.pop() ?? '';
    for (const text of whole) {
      const value: unknown = JSON.parse(text);
      const failed = problemSchema.safeParse(value);
      if (failed.success) throw new Refused(500, 'failed', failed.data.problem);
      onLine(schema.parse(value));
    }
  }
}

/** The sentence of any failure. */
export const sentenceOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
