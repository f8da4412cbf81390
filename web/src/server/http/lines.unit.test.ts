import { Problem } from '../problem.ts';
import { linesOf } from './lines.ts';

const later = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 5));
const read = async (answer: Response): Promise<unknown[]> =>
  (await answer.text())
    .trimEnd()
    .split('\n')
    .map((line) => JSON.parse(line) as unknown);

test('every line as it is sent, those before the answer began first', async () => {
  const answer = await linesOf<{ n: number }>(async (send) => {
    send({ n: 1 });
    send({ n: 2 });
    await later();
    send({ n: 3 });
  });
  expect(answer.headers.get('content-type')).toMatch(/^application\/x-ndjson/);
  expect(await read(answer)).toEqual([{ n: 1 }, { n: 2 }, { n: 3 }]);
});

test('a refusal before the first line is a refusal, not an answer', async () =>
  expect(
    linesOf(async () => {
      await later();
      throw new Problem(415, 'no-pages', 'There are no pages.');
    }),
  ).rejects.toThrow('There are no pages.'));

test('a failure after it ends the answer with its sentence; what is no known failure is not told', async () => {
  const failing = (error: Error): Promise<Response> =>
    linesOf<{ n: number }>(async (send) => {
      send({ n: 1 });
      await later();
      throw error;
    });
  expect(await read(await failing(new Problem(409, 'gone', 'It is gone.')))).toEqual([
    { n: 1 },
    { problem: 'It is gone.' },
  ]);
  expect(await read(await failing(new Error('at 0x7f: secret')))).toEqual([
    { n: 1 },
    { problem: 'The answer broke off.' },
  ]);
});

test('who goes away is sent nothing more, and the work ends well', async () => {
  let ended = false;
  const answer = await linesOf<{ n: number }>(async (send) => {
    send({ n: 1 });
    await later();
    send({ n: 2 });
    ended = true;
  });
  await answer.body?.cancel();
  await later();
  await later();
  expect(ended).toBe(true);
});
