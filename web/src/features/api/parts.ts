/** Large files travel in parts; which upload a file is on its way in is kept in the browser. */
import { sentInParts } from '@ovrel/core/in-parts';
import { addressOf } from '../../contract/operation.ts';
import { api } from '../../contract/operations/index.ts';
import { uploadSchema } from '../../contract/sending.ts';
import { call, Refused } from './client.ts';

export type Place = { readonly fileId: string } | { readonly projectId: string };

/** Sends a form below /api/v1 and gives the answer; `size` is how many bytes of the file are in it. */
export type PostForm = (path: string, form: FormData, size: number) => Promise<unknown>;

interface Sending {
  readonly post: PostForm;
  readonly pause: (ms: number) => Promise<void>;
}

/** A file that was changed meanwhile has another time, so it is never put together of two states. */
const noteOf = ({ name, size, lastModified }: File): string => `ovrel parts of ${name} ${size} ${lastModified}`;

/** It has arrived, or is not to be gone on with. */
export const forgetParts = (file: File): void => localStorage.removeItem(noteOf(file));

/** Brings all of a file to the server and gives the id that stands for it. */
export const sendInParts = (file: File, place: Place, { post, pause }: Sending): Promise<string> =>
  sentInParts(file.size, {
    earlier: localStorage.getItem(noteOf(file)) ?? undefined,
    remember: (id) => localStorage.setItem(noteOf(file), id),
    begin: () => call(api.sending.begin, { body: { ...place, size: file.size } }),
    look: (uploadId) => call(api.sending.look, { uploadId }),
    send: async (uploadId, at, end) => {
      const form = new FormData();
      form.set('at', String(at));
      form.set('file', file.slice(at, end), 'part');
      return uploadSchema.parse(await post(addressOf(api.sending.part, { uploadId }), form, end - at));
    },
    isPassing,
    pause,
  });

/** Nobody answered, or somebody who is about to be there again. */
const isPassing = (error: unknown): boolean =>
  error instanceof Refused && (error.code === 'unreachable' || error.status >= 500 || error.code === 'stalled');
