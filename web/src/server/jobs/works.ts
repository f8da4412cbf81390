/** What each kind of job does. */
import type { JobKind } from '../../contract/storage.ts';
import { collect } from '../store/collect.ts';
import { packFile } from '../store/pack.ts';
import { scrub } from '../store/scrub.ts';
import { tally } from '../store/tally.ts';
import { prepareVersion, summariseFile } from '../versions/facts.ts';
import type { Tell } from './run.ts';

type Work = (data: Readonly<Record<string, string>>, tell: Tell) => Promise<unknown>;

const given = (data: Readonly<Record<string, string>>, name: string): string => {
  const value = data[name];
  if (!value) throw new Error(`a job has no ${name}`);
  return value;
};

export const works: Readonly<Record<JobKind, Work>> = {
  look: (data) => prepareVersion(given(data, 'versionId')),
  summary: (data, tell) => summariseFile(given(data, 'fileId'), tell),
  pack: (data, tell) => packFile(given(data, 'fileId'), (done, total) => tell('storing versions small', done, total)),
  tally: (_, tell) => tally(tell).then(() => null),
  collect: (_, tell) => collect(tell),
  scrub: (_, tell) => scrub(tell),
};
