import { Turns } from './turns.ts';
import { Abandoned, goneNow, Shared, waitedForBy } from './waiting.ts';

const settled = (): Promise<void> => new Promise((done) => setImmediate(done));
const soon = (ms: number): Promise<void> =>
  new Promise((done) => {
    setTimeout(done, ms);
  });

/** Somebody who asks and may go away. */
function asker(): { ask: <T>(work: () => T) => T; go: () => void } {
  const controller = new AbortController();
  return { ask: (work) => waitedForBy(controller.signal, work), go: () => controller.abort() };
}

/** A computation that goes on until it is told to end, or nobody waits for it. */
function computation(): { work: () => Promise<string>; end: (value: string) => void; begun: number; stopped: number } {
  let end = (_: string): void => undefined;
  const state = {
    begun: 0,
    stopped: 0,
    end: (value: string) => end(value),
    work: () => {
      state.begun += 1;
      return new Promise<string>((resolve, reject) => {
        end = resolve;
        goneNow()?.addEventListener('abort', () => {
          state.stopped += 1;
          reject(new Abandoned('nobody waits'));
        });
      });
    },
  };
  return state;
}

test('several who ask for the same wait for one computation', async () => {
  const shared = new Shared(0);
  const made = computation();
  const both = Promise.all([
    asker().ask(() => shared.once('a', made.work)),
    asker().ask(() => shared.once('a', made.work)),
  ]);
  await settled();
  expect(made.begun).toBe(1);
  made.end('done');
  expect(await both).toEqual(['done', 'done']);
});

test('it goes on as long as one of them is there, and stops when the last has gone', async () => {
  const shared = new Shared(0);
  const made = computation();
  const [ines, anselm] = [asker(), asker()];
  const waits = [ines, anselm].map((one) => one.ask(() => shared.once('a', made.work)));
  const ends = Promise.allSettled(waits);
  ines.go();
  await soon(5);
  expect(made.stopped).toBe(0);
  anselm.go();
  await soon(5);
  expect(made.stopped).toBe(1);
  expect((await ends).map((one) => one.status)).toEqual(['rejected', 'rejected']);
});

test('who comes back soon finds it going on; who comes later begins anew', async () => {
  const shared = new Shared(40);
  const made = computation();
  const [first, back] = [asker(), asker()];
  first.ask(() => shared.once('a', made.work)).catch(() => undefined);
  first.go();
  await soon(5);
  const waiting = back.ask(() => shared.once('a', made.work));
  waiting.catch(() => undefined);
  await soon(60);
  expect([made.begun, made.stopped]).toEqual([1, 0]);
  back.go();
  await soon(60);
  expect(made.stopped).toBe(1);
  await expect(waiting).rejects.toThrow(Abandoned);
  const again = asker().ask(() => shared.once('a', made.work));
  made.end('anew');
  expect(await again).toBe('anew');
  expect(made.begun).toBe(2);
});

test('what the server itself wants is never given up', async () => {
  const shared = new Shared(0);
  const made = computation();
  const ines = asker();
  const own = shared.once('a', made.work);
  ines.ask(() => shared.once('a', made.work)).catch(() => undefined);
  ines.go();
  await soon(5);
  expect(made.stopped).toBe(0);
  made.end('done');
  expect(await own).toBe('done');
});

test('a failure reaches all who wait, and the next one tries again', async () => {
  const shared = new Shared(0);
  const fail = (): Promise<string> => Promise.reject(new Error('damaged'));
  const both = await Promise.allSettled([shared.once('a', fail), shared.once('a', fail)]);
  expect(both.map((one) => one.status)).toEqual(['rejected', 'rejected']);
  expect(await shared.once('a', async () => 'sound')).toBe('sound');
});

describe('turns', () => {
  const bounds = { places: 1, mostEach: 2, mostInAll: 4 };

  test('of who has gone are free for others, and never begin', async () => {
    const turns = new Turns(bounds);
    const end = await turns.take('Ines', 1);
    const gone = new AbortController();
    const given = turns.take('Ines', 1, gone.signal);
    const kept = turns.take('Ines', 2);
    // No more fit.
    await expect(turns.take('Ines', 1)).rejects.toThrow();
    gone.abort();
    await expect(given).rejects.toThrow(Abandoned);
    const third = turns.take('Ines', 3);
    end();
    (await kept)();
    (await third)();
  });

  test('are not begun for who has gone before', async () => {
    const turns = new Turns(bounds);
    const end = await turns.take('Ines', 1);
    await expect(turns.take('Anselm', 1, AbortSignal.abort())).rejects.toThrow(Abandoned);
    end();
    (await turns.take('Anselm', 1))();
  });
});
