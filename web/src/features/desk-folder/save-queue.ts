/**
 * Saves on their way to the server: kept in the browser until they are there, sent one after the other, none twice.
 * While the server is away they wait.
 */
import { get, update } from 'idb-keyval';
import type { Saved } from '../../contract/saving.ts';
import { api } from '../../contract/operations/index.ts';
import { Refused } from '../api/client.ts';
import { upload } from '../api/upload.ts';
import { newKey } from '../api/attempt-key.ts';
import { differenceBeside } from './difference.ts';

export interface Waiting {
  readonly key: string;
  readonly fileId: string;
  readonly name: string;
  readonly content: Blob;
  /** The version that it was made of; undefined where that is the save before it, which has no id yet. */
  readonly base: string | undefined;
  readonly title: string | undefined;
  /** When it was saved, in milliseconds since 1970: by it, sending goes on after the page was closed. */
  readonly at: number;
}

/** How one is sent, so that tests need no server. */
export type SendSave = (save: Waiting, base: string | undefined) => Promise<Saved>;

/** Refusals of a delta, after which all of the content is sent. */
const SEND_WHOLE: ReadonlySet<string> = new Set(['wrong-delta', 'too-large-for-deltas']);

const sendSave: SendSave = async ({ fileId, name, content, key, title, at }, base) => {
  const send = (body: Blob, more: { readonly deltaOf?: string; readonly sha256?: string }): Promise<Saved> => {
    const fields = { key, base, title, ...more };
    return upload(
      api.saving.save,
      { fileId, fields, files: new File([body], name, { lastModified: at }) },
      () => undefined,
    ).done;
  };
  // What is new cannot be found out: then all of it is sent.
  const beside = base === undefined ? undefined : await differenceBeside(base, content).catch(() => undefined);
  if (base !== undefined && beside) {
    try {
      return await send(beside.delta, { deltaOf: base, sha256: beside.sha256 });
    } catch (error) {
      if (!(error instanceof Refused) || !SEND_WHOLE.has(error.code)) throw error;
    }
  }
  return send(content, {});
};

interface Store {
  readonly read: () => Promise<readonly Waiting[]>;
  /** Reads and writes in one go: what is added meanwhile, in this page or another, is not lost. */
  readonly update: (change: (waiting: readonly Waiting[]) => readonly Waiting[]) => Promise<void>;
}

const KEY = 'ovrel saves on their way';
const inBrowser: Store = {
  read: async () => (await get<readonly Waiting[]>(KEY)) ?? [],
  update: (change) => update<readonly Waiting[]>(KEY, (waiting) => change(waiting ?? [])),
};

interface Told {
  readonly onSent: (save: Waiting, saved: Saved) => void;
  readonly onRefused: (save: Waiting, error: unknown) => void;
}

/** Waits between tries while the server is away, in milliseconds; the last one goes on. */
const TRIES = [1000, 2000, 5000, 15_000];

export class SaveQueue {
  private readonly store: Store;
  private readonly send: SendSave;
  private readonly pause: (ms: number) => Promise<void>;
  private readonly told = new Set<Told>();
  private working: Promise<void> | undefined;
  /** By file: the version that its last save became. */
  private readonly last = new Map<string, string>();

  constructor(
    store: Store,
    send: SendSave,
    pause = (ms: number): Promise<void> =>
      new Promise((done) => {
        setTimeout(done, ms);
      }),
  ) {
    this.store = store;
    this.send = send;
    this.pause = pause;
  }

  /** Tells of what becomes of saves, until the function that it gives is called. */
  tell(told: Told): () => void {
    this.told.add(told);
    return () => void this.told.delete(told);
  }

  /** Resolves once it is kept here; it is sent in its turn. */
  async add(save: Omit<Waiting, 'key' | 'at'>): Promise<void> {
    const key = newKey();
    await this.store.update((waiting) => {
      const isBehind = waiting.some(({ fileId }) => fileId === save.fileId);
      const base = isBehind ? undefined : (this.last.get(save.fileId) ?? save.base);
      return [...waiting, { ...save, base, key, at: Date.now() }];
    });
    void this.run();
  }

  /** Sends what waits, until nothing does. */
  run(): Promise<void> {
    this.working ??= this.sendAll().finally(() => {
      this.working = undefined;
    });
    return this.working;
  }

  private async sendAll(): Promise<void> {
    for (let tries = 0; ;) {
      const [next] = await this.store.read();
      if (!next) return;
      const outcome = await this.sendOne(next);
      if (outcome === 'away') {
        await this.pause(TRIES[Math.min(tries, TRIES.length - 1)] ?? 0);
        tries++;
        continue;
      }
      tries = 0;
      await this.store.update((waiting) => waiting.filter(({ key }) => key !== next.key));
    }
  }

  private async sendOne(save: Waiting): Promise<'done' | 'away'> {
    try {
      const saved = await this.send(save, save.base ?? this.last.get(save.fileId));
      this.last.set(save.fileId, saved.version.id);
      for (const { onSent } of this.told) onSent(save, saved);
    } catch (error) {
      if (!(error instanceof Refused) || isAway(error)) return 'away';
      for (const { onRefused } of this.told) onRefused(save, error);
    }
    return 'done';
  }
}

/** Of this page: whoever saves sends by it, so that each save is made of the one before. */
export const saves = new SaveQueue(inBrowser, sendSave);

/** Nobody answered, or somebody who is no Ovrel, or one that is about to be there again. */
const isAway = ({ status, code }: Refused): boolean => code === 'unreachable' || status === 0 || status >= 500;
