/** Forms with files: sent once though the connection breaks, large files in parts. */
import { IN_PARTS } from '@ovrel/core/in-parts';
import { addressOf, type Answer, type Ids, type Input, type Operation } from '../../contract/operation.ts';
import { SENT_BEFORE } from '../../contract/sending.ts';
import type { z } from 'zod';
import { answerOf, Refused, refusal, unreachable } from './client.ts';
import { forgetParts, sendInParts, type Place, type PostForm } from './parts.ts';

export interface Upload<T> {
  readonly done: Promise<T>;
  readonly cancel: () => void;
}

type Fields<O extends Operation> = O extends { form: infer F extends z.ZodType } ? z.input<F> : never;
type Form<O extends Operation> = Ids<O> & { readonly fields: Fields<O>; readonly files: File | readonly File[] };

/** Waits before a form whose answer was lost is sent again, in milliseconds. */
const SENT_AGAIN_AFTER = [1000, 3000, 6000];

const wait = (ms: number): Promise<void> =>
  new Promise((done) => {
    setTimeout(done, ms);
  });

/**
 * Sends a form with files; `onProgress` gets the share that has been sent, 0 to 1. With a key in its fields it is sent
 * again where the connection broke: it is done once all the same. Large files of known places travel in parts.
 */
export function upload<O extends Operation>(
  operation: O,
  input: Form<O>,
  onProgress: (share: number) => void,
): Upload<Answer<O>> {
  const files = input.files instanceof File ? [input.files] : input.files;
  const path = `/api/v1${addressOf(operation, input as unknown as Input<O>)}`;
  const line = new Line(
    files.reduce((sum, { size }) => sum + size, 0),
    onProgress,
  );
  const work = async (): Promise<Answer<O>> => {
    const sent = await sentBefore(files, placeOf(input as Placed), line);
    const form = formOf(input.fields as Readonly<Record<string, string | undefined>>, sent);
    const answer = await line.sendOnce(path, form, form.has('key') ? SENT_AGAIN_AFTER : []);
    files.forEach((file) => forgetParts(file));
    return answerOf(operation, answer);
  };
  return { done: work(), cancel: () => line.cancel() };
}

interface Placed {
  readonly fileId?: string;
  readonly projectId?: string;
}

/** Where files of a form are to stand; undefined where that cannot be told before. */
function placeOf({ fileId, projectId }: Placed): Place | undefined {
  if (fileId !== undefined) return { fileId };
  return projectId === undefined ? undefined : { projectId };
}

function formOf(fields: Readonly<Record<string, string | undefined>>, files: readonly File[]): FormData {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) if (value !== undefined) form.append(name, value);
  for (const file of files) form.append('file', file, file.name);
  return form;
}

/** What goes into the form: small files themselves, and what stands for large ones once these are there. */
async function sentBefore(files: readonly File[], place: Place | undefined, line: Line): Promise<File[]> {
  const sent: File[] = [];
  for (const file of files) {
    const id = file.size > IN_PARTS && place ? await inParts(file, place, line) : undefined;
    const words = JSON.stringify({ upload: id });
    sent.push(id === undefined ? file : new File([words], file.name, { type: SENT_BEFORE }));
  }
  return sent;
}

/** Undefined where the server takes no parts there: a person may have rights in a folder alone. */
async function inParts(file: File, place: Place, line: Line): Promise<string | undefined> {
  try {
    return await sendInParts(file, place, { post: line.post, pause: wait });
  } catch (error) {
    if (error instanceof Refused && error.status === 403) return undefined;
    throw error;
  }
}

/** One request after the other, and how much of all of it has been sent. */
class Line {
  private readonly all: number;
  private readonly onProgress: (share: number) => void;
  private request = new XMLHttpRequest();
  private isCancelled = false;
  private sent = 0;

  constructor(all: number, onProgress: (share: number) => void) {
    this.all = all;
    this.onProgress = onProgress;
  }

  cancel(): void {
    this.isCancelled = true;
    this.request.abort();
  }

  /** A part: what of it arrived stays. */
  readonly post: PostForm = async (path, form, size) => {
    const answer = await this.send(`/api/v1${path}`, form);
    this.sent += size;
    return answer;
  };

  async sendOnce(path: string, form: FormData, waits: readonly number[]): Promise<unknown> {
    for (const pause of [...waits, undefined]) {
      try {
        return await this.send(path, form);
      } catch (error) {
        const isLost = error instanceof Refused && error.code === 'unreachable';
        if (!isLost || pause === undefined) throw error;
        await wait(pause);
      }
    }
    throw unreachable(false);
  }

  private send(path: string, form: FormData): Promise<unknown> {
    if (this.isCancelled) throw cancelled();
    const request = new XMLHttpRequest();
    this.request = request;
    return new Promise((resolve, reject) => {
      request.open('POST', path);
      request.upload.onprogress = ({ loaded }) =>
        this.onProgress(this.all === 0 ? 0 : Math.min(1, (this.sent + loaded) / this.all));
      request.onload = () => {
        try {
          if (request.status >= 300) throw refusal(request.status, request.responseText);
          resolve(JSON.parse(request.responseText));
        } catch (error) {
          reject(error instanceof Error ? error : new Error(String(error)));
        }
      };
      request.onerror = () => reject(unreachable(false));
      request.onabort = () => reject(cancelled());
      request.send(form);
    });
  }
}

const cancelled = (): Refused => new Refused(0, 'cancelled', 'The upload was cancelled. Nothing was stored.');
