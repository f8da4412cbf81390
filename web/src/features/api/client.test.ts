/** Calls to the API as the interface makes them: checked answers, and refusals with their sentences. */
import { api } from '../../contract/operations/index.ts';
import { call, filledIn, lines, Refused } from './client.ts';
import { z } from 'zod';

const person = {
  id: '00000000-0000-4000-8000-000000000001',
  name: 'Ines',
  email: 'ines@quillmere.example',
  role: 'editor',
} as const;
const asked: { url: string; init: RequestInit }[] = [];

function answerWith(status: number, body: unknown): void {
  globalThis.fetch = async (url, init = {}) => {
    asked.push({ url: url as string, init });
    const text = typeof body === 'string' ? body : JSON.stringify(body);
    return new Response(status === 204 ? null : text, { status });
  };
}
const refused = async (work: Promise<unknown>): Promise<Refused> => {
  const error: unknown = await work.then(
    () => undefined,
    (e: unknown) => e,
  );
  expect(error).toBeInstanceOf(Refused);
  return error as Refused;
};
beforeEach(() => {
  asked.length = 0;
});

test('asks by method, address and body, and gives what the schema makes of the answer', async () => {
  const body = {
    name: 'Ines',
    email: 'ines@quillmere.example',
    password: 'long enough for all',
    role: 'editor',
  } as const;
  const member = {
    ...person,
    state: 'active',
    secondFactor: false,
    temporary: true,
    seenAt: null,
    sessions: 0,
    tokens: 0,
  };
  answerWith(201, { ...member, surprise: 1 });
  expect(await call(api.people.add, { body })).toEqual(member);
  expect(asked[0]).toMatchObject({ url: '/api/v1/people', init: { method: 'POST', body: JSON.stringify(body) } });
  answerWith(204, '');
  expect(await call(api.door.signOut, {})).toBeUndefined();
  expect(asked[1]!.init.body).toBeUndefined();
});

test('an answer that the page does not understand asks for a reload, and is not shown as if it were right', async () => {
  answerWith(200, [{ ...person, role: 'harbour master' }]);
  const error = await refused(call(api.people.list, {}));
  expect(error.code).toBe('not-understood');
  expect(error.message).toMatch(/load the page again/);
});

test('a refusal has the sentence, the code and what came with it', async () => {
  answerWith(409, {
    type: '/problems/newer-version',
    title: 'x',
    status: 409,
    detail: 'v4 was checked in.',
    newest: 4,
  });
  const error = await refused(call(api.projects.list, {}));
  expect(error).toMatchObject({ status: 409, code: 'newer-version', message: 'v4 was checked in.' });
  expect(error.extra['newest']).toBe(4);
});

test('what is no problem of ours, and no connection, are said in words', async () => {
  answerWith(502, '<html>Bad gateway</html>');
  expect((await refused(call(api.projects.list, {}))).message).toMatch(/no usable answer/);
  globalThis.fetch = () => Promise.reject(new TypeError('Failed to fetch'));
  const error = await refused(call(api.projects.list, {}));
  expect(error.code).toBe('unreachable');
  expect(error.message).toMatch(/Check the connection and try again/);
  const signingOut = await refused(call(api.door.signOut, {}));
  expect(signingOut.message).toMatch(/look whether it was done/);
});

test('a form is read by its schema: numbers become numbers, and what is wrong is a sentence', () => {
  const form = new FormData();
  form.set('name', 'laptop');
  form.set('scope', 'desk');
  form.set('days', '30');
  expect(filledIn(api.tokens.make.body, form)).toEqual({ name: 'laptop', scope: 'desk', days: 30 });
  form.set('days', '400');
  expect(() => filledIn(api.tokens.make.body, form)).toThrow('A token holds for at most a year.');
});

describe('an answer line by line', () => {
  const schema = z.object({ n: z.number() });
  const streamed = (pieces: readonly string[]): void => {
    const stream = new ReadableStream<Uint8Array>({
      start(controller) {
        for (const piece of pieces) controller.enqueue(new TextEncoder().encode(piece));
        controller.close();
      },
    });
    globalThis.fetch = async () => new Response(stream);
  };

  test('comes whole, however it was cut', async () => {
    streamed(['{"n":1}\n{"n"', ':2}\n', '{"n":3}\n']);
    const seen: number[] = [];
    await lines('/x', schema, ({ n }) => seen.push(n), new AbortController().signal);
    expect(seen).toEqual([1, 2, 3]);
  });

  test('that breaks off says why', async () => {
    streamed(['{"n":1}\n', '{"problem":"The answer broke off."}\n']);
    await expect(lines('/x', schema, () => undefined, new AbortController().signal)).rejects.toThrow('broke off');
  });
});
