/**
 * Reads a multipart form whose last fields are files, as a stream: fields first, then the file's bytes as they come
 * (RFC 7578).
 */
import { on } from 'node:events';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import busboy from 'busboy';
import { config } from '../config.ts';
import { Problem } from '../problem.ts';
import type { Incoming } from '../versions/checkin.ts';

/** Of one field: the plan of two thousand copies with long names fits. */
const LARGEST_FIELD = 4 * 1024 * 1024;
/** Files in one form. */
const MOST_FILES = 2000;

/** Bytes that are still read and thrown away after a refusal, so that the sender gets to see the answer. */
const DRAIN = 64 * 1024 * 1024;

type Fields = Readonly<Record<string, string>>;

/** Calls `work` with the fields and the file. The form must be read to its end for the file to count as complete. */
export const withUpload = <T>(request: Request, work: (fields: Fields, file: Incoming) => Promise<T>): Promise<T> =>
  withUploads(
    request,
    async (fields, files) => {
      for await (const file of files) return work(fields, file);
      throw noFile();
    },
    1,
  );

const noFile = (): Problem => new Problem(400, 'no-file', 'The form has no file in it.');

const tooManyFiles = (most: number): Problem =>
  new Problem(
    413,
    'too-many-files',
    most === 1
      ? 'Only one file can be sent here.'
      : `At most ${most.toLocaleString('en')} files can be sent at once. Nothing was stored; send them in parts.`,
  );

/** Calls `work` with the fields and the files, one after the other: each is to be read before the next one comes. */
export async function withUploads<T>(
  request: Request,
  work: (fields: Fields, files: AsyncIterable<Incoming>) => Promise<T>,
  most = MOST_FILES,
): Promise<T> {
  const type = request.headers.get('content-type') ?? '';
  const parser = parserFor(type, most);
  if (!parser || !request.body)
    throw new Problem(415, 'not-a-form', 'Send the file as multipart/form-data: the fields first, then the file.');
  const reader = request.body.getReader();
  const fields: Record<string, string> = {};
  // What is cut off without a word would be taken for the whole of it.
  parser.on('field', (name, value, { valueTruncated: isCut }) => {
    fields[name] = value;
    if (isCut) parser.destroy(new Problem(413, 'too-large', `The field “${name}” is larger than 4 MB.`));
  });
  parser.on('filesLimit', () => parser.destroy(tooManyFiles(most)));
  const stop = new AbortController();
  const coming = on(parser, 'file', { close: ['close'] }) as AsyncIterable<[string, Readable, busboy.FileInfo]>;
  const ended = pipeline(piecesOf(reader), parser, { signal: stop.signal }).catch((error: unknown) => {
    throw error instanceof Problem ? error : broken();
  });
  ended.catch(() => undefined);
  try {
    const files = filesOf(coming, ended, most === 1);
    const first = await files.next();
    if (first.done) throw noFile();
    return await work(fields, withFirst(first.value, files));
  } catch (error) {
    stop.abort();
    await drain(reader).catch(() => undefined);
    throw error;
  }
}

/** None for another type of body, or a form that does not say what stands between its parts. */
function parserFor(type: string, files: number): busboy.Busboy | undefined {
  if (!/^multipart\/form-data/i.test(type)) return undefined;
  try {
    const limits = { files, fields: 20, fieldSize: LARGEST_FIELD };
    return busboy({ headers: { 'content-type': type }, defParamCharset: 'utf8', limits });
  } catch {
    return undefined;
  }
}

const broken = (): Problem =>
  new Problem(400, 'cut-off', 'The upload broke off before the end. Nothing was stored; send the file again.');

async function* filesOf(
  coming: AsyncIterable<[string, Readable, busboy.FileInfo]>,
  ended: Promise<void>,
  only: boolean,
): AsyncGenerator<Incoming, void> {
  try {
    for await (const [, stream, { filename, mimeType }] of coming) {
      // Whoever reads the bytes hears of the failure; without a listener it would end the process.
      stream.on('error', () => undefined);
      yield { name: filename ?? 'unnamed', type: mimeType, bytes: whole(stream, ended, only) };
    }
  } catch {
    // The form's own end says what broke.
  }
  await ended;
}

async function* withFirst(first: Incoming, rest: AsyncIterable<Incoming>): AsyncGenerator<Incoming> {
  yield first;
  yield* rest;
}

/**
 * The file's bytes; of the last file they end only if the form ended well too, so that a cut upload is never taken
 * for a short file.
 */
async function* whole(stream: Readable, ended: Promise<void>, last: boolean): AsyncGenerator<Uint8Array> {
  try {
    for await (const piece of stream) yield piece as Uint8Array;
  } catch {
    await ended;
    throw broken();
  }
  if (last) await ended;
}

/** What the sender sends, until it stalls or goes away. */
async function* piecesOf(reader: ReadableStreamDefaultReader<Uint8Array>): AsyncGenerator<Uint8Array> {
  for (;;) {
    const { done, value } = await withTimeout(
      reader.read().catch(() => {
        throw broken();
      }),
    );
    if (done) return;
    yield value;
  }
}

function withTimeout<T>(work: Promise<T>): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const stalled = new Promise<never>((_resolve, reject) => {
    timer = setTimeout(
      () =>
        reject(
          new Problem(
            408,
            'stalled',
            'The upload stood still for too long and was given up. Nothing was stored; send the file again.',
          ),
        ),
      config.uploadStall,
    );
  });
  return Promise.race([work, stalled]).finally(() => clearTimeout(timer));
}

async function drain(reader: ReadableStreamDefaultReader<Uint8Array>): Promise<void> {
  for (let left = DRAIN; left > 0;) {
    const { done, value } = await withTimeout(reader.read());
    if (done) return;
    left -= value.length;
  }
  await reader.cancel();
}
