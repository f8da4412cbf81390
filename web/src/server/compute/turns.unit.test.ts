import { Busy } from '../db/pool.ts';
import { SERVER, Turns } from './turns.ts';

const KB = 1024;
const MB = 1024 * 1024;
const settled = (): Promise<void> => new Promise((done) => setImmediate(done));

/** Asks for turns, and notes in which order they begin. */
function watched(bounds = { places: 2, mostEach: 5, mostInAll: 8 }): {
  begun: string[];
  ask: (who: string, what: string, size: number) => Promise<void>;
  end: (what: string) => Promise<void>;
} {
  const turns = new Turns(bounds);
  const begun: string[] = [];
  const ends = new Map<string, () => void>();
  return {
    begun,
    ask: async (who, what, size) => {
      const turn = turns.take(who, size).then((end) => {
        begun.push(what);
        ends.set(what, end);
      });
      turn.catch(() => undefined);
      await Promise.race([turn, settled()]);
    },
    end: async (what) => {
      ends.get(what)?.();
      await settled();
    },
  };
}

test('as much runs at once as there are places, and no more', async () => {
  const { begun, ask, end } = watched();
  for (const what of ['one', 'two', 'three']) await ask('Ines', what, KB);
  expect(begun).toEqual(['one', 'two']);
  await end('one');
  await end('one');
  expect(begun).toEqual(['one', 'two', 'three']);
});

test('large work leaves a place for what is small', async () => {
  const { begun, ask, end } = watched();
  for (const what of ['large 1', 'large 2', 'large 3']) await ask('Ines', what, 60 * MB);
  expect(begun).toEqual(['large 1']);
  await ask('Tobias', 'small', KB);
  expect(begun).toEqual(['large 1', 'small']);
  await end('small');
  await end('large 1');
  expect(begun).toEqual(['large 1', 'small', 'large 2']);
});

test('people take turns, each with what is smallest first', async () => {
  const { begun, ask, end } = watched({ places: 1, mostEach: 5, mostInAll: 20 });
  await ask('Ines', 'running', KB);
  for (const [what, size] of [
    ['I3', 3],
    ['I1', 1],
    ['I2', 2],
  ] as const)
    await ask('Ines', what, size * KB);
  await ask('Tobias', 'T1', 5 * KB);
  for (const what of ['running', 'I1', 'T1', 'I2']) await end(what);
  expect(begun).toEqual(['running', 'I1', 'T1', 'I2', 'I3']);
});

test('what would wait behind too much is refused, for one person and for all; the server itself is not', async () => {
  const turns = new Turns({ places: 1, mostEach: 2, mostInAll: 3 });
  await turns.take('Ines', KB);
  const waiting = [turns.take('Ines', KB), turns.take('Ines', KB)];
  await expect(turns.take('Ines', KB)).rejects.toBeInstanceOf(Busy);
  waiting.push(turns.take('Tobias', KB));
  await expect(turns.take('Anselm', KB)).rejects.toBeInstanceOf(Busy);
  waiting.push(turns.take(SERVER, KB));
  expect(waiting).toHaveLength(4);
});
