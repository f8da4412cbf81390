import type { Job, ScrubReport } from '../../contract/storage.ts';
import { isSound, saidOfJob, saidOfLedger, saidOfScrub, shareOf } from './say.ts';

const sound: ScrubReport = {
  chunks: 1200,
  storedBytes: 3_400_000,
  contents: 61,
  contentBytes: 9_800_000,
  damagedChunks: 0,
  damagedContents: 0,
  damaged: [],
  damagedResults: 0,
  ledger: { entries: 140, broken: null, versions: 72, wrong: [] },
};
const file = { fileId: '1', file: 'plan.svg', project: 'Landing' };

describe('a check of everything', () => {
  test('that found nothing says what was read', () => {
    expect(isSound(sound)).toBe(true);
    expect(saidOfLedger(sound)).toBeUndefined();
    expect(saidOfScrub(sound)).toBe(
      'All is well: 1,200 stored pieces (3.4 MB) and 61 contents (9.8 MB) were read and match their hashes. 72 versions are what the ledger says.',
    );
  });

  test('of before versions were sealed says nothing of the ledger', () => {
    const { ledger: _, ...older } = sound;
    expect(isSound(older)).toBe(true);
    expect(saidOfLedger(older)).toBeUndefined();
    expect(saidOfScrub(older)).toMatch(/match their hashes\.$/);
  });

  test('that found damage says how much is lost', () => {
    const one = { ...sound, damagedChunks: 1, damagedContents: 1, damaged: [{ ...file, versions: [3] }] };
    expect(isSound(one)).toBe(false);
    expect(saidOfScrub(one)).toBe('1 stored piece is damaged: 1 version of 1 file cannot be given out.');
    const more = {
      ...one,
      damagedChunks: 2,
      damaged: [
        { ...file, versions: [3, 4] },
        { ...file, versions: [1] },
      ],
    };
    expect(saidOfScrub(more)).toBe('2 stored pieces are damaged: 3 versions of 2 files cannot be given out.');
  });

  test('a piece that nothing is made of any more is damage all the same', () => {
    expect(isSound({ ...sound, damagedChunks: 1 })).toBe(false);
  });

  test('a ledger that does not hold is said before versions that are not what it says', () => {
    const wrong = [{ ...file, version: 3, why: 'was changed: note' }];
    const changed = { ...sound, ledger: { entries: 140, broken: null, versions: 71, wrong } };
    expect(isSound(changed)).toBe(false);
    expect(saidOfLedger(changed)).toMatch(/^1 version is not what the ledger says\./);
    const both = { ...changed, ledger: { ...changed.ledger, broken: { entry: 1234, why: 'it was changed' } } };
    expect(isSound(both)).toBe(false);
    expect(saidOfLedger(both)).toBe('The ledger does not hold: entry 1,234: it was changed.');
    const several = { ...changed, ledger: { ...changed.ledger, wrong: [...wrong, ...wrong] } };
    expect(saidOfLedger(several)).toMatch(/^2 versions are not/);
  });
});

describe('a job', () => {
  const job = {
    state: 'waiting',
    doing: '',
    done: 0,
    total: null,
    attempts: 0,
    problem: null,
    cancelling: false,
    outcome: null,
  } as unknown as Job;
  const said = (how: Partial<Job>): string => saidOfJob({ ...job, ...how });

  test('says where it stands', () => {
    expect(said({})).toBe('waiting');
    expect(said({ problem: 'busy' })).toBe('will be tried again: busy');
    expect(said({ state: 'running' })).toBe('running');
    expect(said({ state: 'running', doing: 'reading chunks', done: 1200, total: 4000 })).toBe(
      'reading chunks 1,200 of 4,000',
    );
    expect(said({ state: 'running', doing: 'counting', done: 7 })).toBe('counting 7');
    expect(said({ state: 'running', doing: 'counting', attempts: 2 })).toBe('counting (attempt 2)');
    expect(said({ state: 'running', doing: 'counting', cancelling: true })).toBe('stopping');
  });

  test('says how it ended', () => {
    expect(said({ state: 'done' })).toBe('done');
    expect(said({ state: 'done', outcome: 'all is well' })).toBe('done: all is well');
    expect(said({ state: 'cancelled' })).toBe('cancelled');
    expect(said({ state: 'failed', problem: 'the disk is full' })).toBe('failed: the disk is full');
    expect(said({ state: 'failed' })).toBe('failed: no reason is known');
  });
});

test('shares are said with a decimal where they are small, and not at all of nothing', () => {
  expect([shareOf(64, 1000), shareOf(500, 1000), shareOf(1, 0)]).toEqual(['6.4 %', '50 %', '–']);
});
