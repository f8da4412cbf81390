/** What each kind of job does. */
import type { JobKind } from '../../contract/storage.ts';
import { db } from '../db/pool.ts';
import { recordReferences } from '../references/service.ts';
import { collect } from '../store/collect.ts';
import { packFile } from '../store/pack.ts';
import { scrub } from '../store/scrub.ts';
import { tally } from '../store/tally.ts';
import { prepareVersion, summariseFile } from '../versions/facts.ts';
import { enqueue } from './queue.ts';
import type { Tell } from './run.ts';

type Work = (data: Readonly<Record<string, string>>, tell: Tell) => Promise<unknown>;

const given = (data: Readonly<Record<string, string>>, name: string): string => {
  const value = data[name];
  if (!value) throw new Error(`a job has no ${name}`);
  return value;
};

export const works: Readonly<Record<JobKind, Work>> = {
  look: async (data) => {
    const versionId = given(data, 'versionId');
    await recordReferences(versionId);
    await prepareVersion(versionId);
  },
  summary: (data, tell) => summariseFile(given(data, 'fileId'), tell),
  pack: (data, tell) => packFile(given(data, 'fileId'), (done, total) => tell('version', done, total)),
  tally: (_, tell) => tally(tell).then(() => null),
  collect: async (_, tell) => {
    const collected = await collect(tell);
    if (collected.chunks) await enqueue(db(), { kind: 'tally', key: 'tally', title: 'Counting what is stored' });
    return collected;
  },
  scrub: (_, tell) => scrub(tell),
};
