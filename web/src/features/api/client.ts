import { z } from 'zod';

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

const unreachable = (): Refused =>
  new Refused(
    0,
    'unreachable',
    'Ovrel cannot be reached just now. Check the connection and try again; nothing was changed.',
  );

function refusal(status: number, text: string): Refused {
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

export async function call<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
  const response = await fetch(`/api/v1${path}`, {
    method,
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
  }).catch(() => {
    throw unreachable();
  });
  if (!response.ok) throw refusal(response.status, await response.text());
  return (response.status === 204 ? undefined : await response.json()) as T;
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

export interface Upload<T> {
  readonly done: Promise<T>;
  readonly cancel: () => void;
}

/** Sends a form with files; `onProgress` gets the share that has been sent, 0 to 1. */
export function upload<T>(
  path: string,
  fields: Readonly<Record<string, string>>,
  files: File | readonly File[],
  onProgress: (share: number) => void,
): Upload<T> {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.append(name, value);
  for (const file of files instanceof File ? [files] : files) form.append('file', file, file.name);
  const request = new XMLHttpRequest();
  const done = new Promise<T>((resolve, reject) => {
    request.open('POST', `/api/v1${path}`);
    request.upload.onprogress = (e) => onProgress(e.lengthComputable ? e.loaded / e.total : 0);
    request.onload = () =>
      request.status < 300
        ? resolve(JSON.parse(request.responseText) as T)
        : reject(refusal(request.status, request.responseText));
    request.onerror = () => reject(unreachable());
    request.onabort = () => reject(new Refused(0, 'cancelled', 'The upload was cancelled. Nothing was stored.'));
    request.send(form);
  });
  return { done, cancel: () => request.abort() };
}

/** The sentence of any failure. */
export const sentenceOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
