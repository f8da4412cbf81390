/**
 * Saves on their way to the server: kept in the browser until they are there, sent one after the other, none twice.
 * While the server is away they wait.
 */
import { get, set } from 'idb-keyval';
import type { Saved } from '../../contract/saving.ts';
import { api } from '../../contract/operations/index.ts';
import { Refused, upload } from '../api/client.ts';
import { newKey } from '../api/attempt-key.ts';

export interface Waiting {
  readonly key: string;
  readonly fileId: string;
  readonly name: string;
  readonly content: Blob;
  /** The version that it was made of; undefined where that is the save before it, which has no id yet. */
  readonly base: string | undefined;
  readonly title: string | undefined;
}

/** How one is sent, so that tests need no server. */
export type SendSave = (save: Waiting, base: string | undefined) => Promise<Saved>;

export const sendSave: SendSave = ({ fileId, name, content, key, title }, base) =>
  upload(api.saving.save, { fileId, fields: { key, base, title }, files: new File([content], name) }, () => undefined)
    .done;

interface Store {
  readonly read: () => Promise<readonly Waiting[]>;
  readonly write: (waiting: readonly Waiting[]) => Promise<void>;
}

const KEY = 'ovrel saves on their way';
export const inBrowser: Store = {
  read: async () => (await get<readonly Waiting[]>(KEY)) ?? [],
  write: (waiting) => set(KEY, waiting),
};

/** Waits between tries while the server is away, in milliseconds; the last one goes on. */
const TRIES = [1000, 2000, 5000, 15_000];

export class SaveQueue {
  private readonly store: Store;
  private readonly send: SendSave;
  private readonly pause: (ms: number) => Promise<void>;
  private readonly onSent: (save: Waiting, saved: Saved) => void;
  private readonly onRefused: (save: Waiting, error: unknown) => void;
  private working: Promise<void> | undefined;
  /** By file: the version that its last save became. */
  private readonly last = new Map<string, string>();

  constructor(
    store: Store,
    send: SendSave,
    told: {
      readonly onSent: (save: Waiting, saved: Saved) => void;
      readonly onRefused: (save: Waiting, error: unknown) => void;
    },
    pause = (ms: number): Promise<void> =>
      new Promise((done) => {
        setTimeout(done, ms);
      }),
  ) {
    this.store = store;
    this.send = send;
    this.pause = pause;
    this.onSent = told.onSent;
    this.onRefused = told.onRefused;
  }

  /** Resolves once it is kept here; it is sent in its turn. */
  async add(save: Omit<Waiting, 'key'>): Promise<void> {
    const waiting = await this.store.read();
    const isBehind = waiting.some(({ fileId }) => fileId === save.fileId);
    const base = isBehind ? undefined : (this.last.get(save.fileId) ?? save.base);
    await this.store.write([...waiting, { ...save, base, key: newKey() }]);
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
      const rest = (await this.store.read()).filter(({ key }) => key !== next.key);
      await this.store.write(rest);
    }
  }

  private async sendOne(save: Waiting): Promise<'done' | 'away'> {
    try {
      const saved = await this.send(save, save.base ?? this.last.get(save.fileId));
      this.last.set(save.fileId, saved.version.id);
      this.onSent(save, saved);
    } catch (error) {
      if (!(error instanceof Refused) || isAway(error)) return 'away';
      this.onRefused(save, error);
    }
    return 'done';
  }
}

/** Nobody answered, or somebody who is no Ovrel, or one that is about to be there again. */
const isAway = ({ status, code }: Refused): boolean => code === 'unreachable' || status === 0 || status >= 500;
