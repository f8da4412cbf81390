/** Large files travel in parts: when the connection breaks, or the program ends, sending goes on where it stopped. */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { open, stat } from 'node:fs/promises';
import { setTimeout } from 'node:timers/promises';
import { sentInParts } from '@ovrel/core';
import { z } from 'zod';

/** The type of a file in a form that stands for what was sent before. */
export const SENT_BEFORE = 'application/vnd.ovrel.sent+json';

const upload = z.object({ id: z.string(), size: z.number(), received: z.number() });

/** Where the file is to stand: what is asked before the first part. */
export type Place = { readonly fileId: string } | { readonly projectId: string; readonly folderId: string | null };

/** One request to the server; throws what `isPassing` knows. */
export type Ask = <S extends z.ZodType>(schema: S, path: string, init?: RequestInit) => Promise<z.output<S>>;

/** Which upload a content is on its way in, by what it is: kept beside the files, so that another run goes on with it. */
export class Notes {
  private readonly path: string | undefined;
  private known: Record<string, string> = {};

  constructor(path: string | undefined) {
    this.path = path;
    if (path === undefined || !existsSync(path)) return;
    try {
      this.known = z.record(z.string(), z.string()).parse(JSON.parse(readFileSync(path, 'utf8')));
    } catch {
      // They only save time.
    }
  }

  get(what: string): string | undefined {
    return this.known[what];
  }

  set(what: string, id: string): void {
    this.keep({ ...this.known, [what]: id });
  }

  /** It has arrived. */
  forget(id: string): void {
    this.keep(Object.fromEntries(Object.entries(this.known).filter(([, known]) => known !== id)));
  }

  private keep(known: Record<string, string>): void {
    this.known = known;
    if (this.path !== undefined) writeFileSync(this.path, JSON.stringify(known));
  }
}

interface Sending {
  readonly ask: Ask;
  readonly notes: Notes;
  /** Whether another try may do. */
  readonly isPassing: (error: unknown) => boolean;
  readonly pause?: (ms: number) => Promise<unknown>;
}

/** Brings all of a file to the server and gives the id that stands for it. `what` tells its content from all others. */
export async function sendInParts(
  path: string,
  { place, what }: { readonly place: Place; readonly what: string },
  { ask, notes, isPassing, pause = setTimeout }: Sending,
): Promise<string> {
  const { size } = await stat(path);
  const file = await open(path);
  try {
    return await sentInParts(size, {
      earlier: notes.get(what),
      remember: (id) => notes.set(what, id),
      begin: () => ask(upload, '/uploads', asJson({ ...place, size })),
      look: (id) => ask(upload, `/uploads/${id}`),
      send: async (id, at, end) => {
        const bytes = Buffer.alloc(end - at);
        const { bytesRead } = await file.read(bytes, 0, bytes.length, at);
        const form = new FormData();
        form.set('at', String(at));
        form.set('file', new Blob([bytes.subarray(0, bytesRead)]), 'part');
        return ask(upload, `/uploads/${id}/parts`, { method: 'POST', body: form });
      },
      isPassing,
      pause,
    });
  } finally {
    await file.close();
  }
}

const asJson = (body: unknown): RequestInit => ({
  method: 'POST',
  body: JSON.stringify(body),
  headers: { 'content-type': 'application/json' },
});
