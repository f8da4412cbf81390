import type { Saved } from '../../contract/saving.ts';
import { Refused } from '../api/client.ts';
import { SaveQueue, type SendSave, type Waiting } from './save-queue.ts';

interface Server {
  readonly queue: SaveQueue;
  /** What landed: the text, and the version that it was made of. */
  readonly landed: [text: string, base: string | undefined][];
  readonly refused: string[];
  readonly waiting: () => number;
}

/** A server that fails as the list says, one entry a request; an answer may be lost after it landed. */
function serverThat(...fails: readonly ('away' | 'lost' | 'refuses' | undefined)[]): Server {
  let kept: readonly Waiting[] = [];
  const landed: [string, string | undefined][] = [];
  const byKey = new Map<string, Saved>();
  const refused: string[] = [];
  let requests = 0;
  const send: SendSave = async ({ key, content }, base) => {
    const fate = fails[requests++];
    if (fate === 'away') throw new Refused(0, 'unreachable', 'nobody answered');
    if (fate === 'refuses') throw new Refused(403, 'not-allowed', 'You may only look here.');
    const before = byKey.get(key);
    if (before) return before;
    landed.push([await content.text(), base]);
    const saved = { made: true, aside: false, sentence: '', version: { id: `v${landed.length}` } } as unknown as Saved;
    byKey.set(key, saved);
    if (fate === 'lost') throw new Refused(0, 'unreachable', 'the answer was lost');
    return saved;
  };
  const store = {
    read: () => Promise.resolve(kept),
    update: (change: (waiting: readonly Waiting[]) => readonly Waiting[]) => {
      kept = change(kept);
      return Promise.resolve();
    },
  };
  const queue = new SaveQueue(store, send, () => Promise.resolve());
  queue.tell({ onSent: () => undefined, onRefused: (save) => refused.push(save.name) });
  return { queue, landed, refused, waiting: () => kept.length };
}

const save = (text: string, base?: string): Omit<Waiting, 'key' | 'at'> => ({
  fileId: 'plan',
  name: `${text}.txt`,
  content: new Blob([text]),
  base,
  title: undefined,
});

test('saves land in order, each made of the one before', async () => {
  const { queue, landed, waiting } = serverThat();
  await queue.add(save('one', 'v0'));
  await queue.add(save('two', 'v0'));
  await queue.add(save('three', 'v0'));
  await queue.run();
  expect(landed).toEqual([
    ['one', 'v0'],
    ['two', 'v1'],
    ['three', 'v2'],
  ]);
  expect(waiting()).toBe(0);
});

test('while the server is away they wait; none is lost, none comes twice', async () => {
  const { queue, landed } = serverThat('away', 'away', undefined, 'lost', undefined, 'away');
  for (const text of ['one', 'two', 'three']) await queue.add(save(text, 'v0'));
  await queue.run();
  expect(landed.map(([text]) => text)).toEqual(['one', 'two', 'three']);
});

test('one that is refused is told, and does not hold up the others', async () => {
  const { queue, landed, refused } = serverThat('refuses');
  await queue.add(save('one', 'v0'));
  await queue.add(save('two', 'v0'));
  await queue.run();
  expect(refused).toEqual(['one.txt']);
  expect(landed.map(([text]) => text)).toEqual(['two']);
});

test('what is saved in the very moment in which another arrives is not lost', async () => {
  const { queue, landed } = serverThat();
  const others: Promise<void>[] = [];
  queue.tell({
    onSent: ({ name }) => {
      if (name === 'one.txt') others.push(queue.add(save('two', 'v0')), queue.add(save('three', 'v0')));
    },
    onRefused: () => undefined,
  });
  await queue.add(save('one', 'v0'));
  await queue.run();
  await Promise.all(others);
  await queue.run();
  expect(landed).toEqual([
    ['one', 'v0'],
    ['two', 'v1'],
    ['three', 'v2'],
  ]);
});
