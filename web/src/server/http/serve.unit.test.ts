/**
 * Routes by their operations: what goes in is checked, what comes out too, and bodies are read no further than they
 * may be long.
 */
import { z } from 'zod';
import type { Operation } from '../../contract/operation.ts';
import { LARGEST_BODY } from './body.ts';
import { answered, serveAnyone } from './serve.ts';

const pier = {
  method: 'post',
  path: '/piers/{pierId}',
  summary: 'Change a pier',
  query: z.object({ times: z.coerce.number().int().default(1) }),
  body: z.object({ name: z.string().min(1, 'A pier needs a name.') }),
  answer: z.object({ name: z.string(), times: z.number() }),
  status: 201,
  who: 'anyone',
} as const satisfies Operation;

const id = '00000000-0000-4000-8000-000000000001';
const route = serveAnyone(pier, async ({ pierId, query, body }) => ({
  name: `${body.name} ${pierId.slice(-1)}`,
  times: query.times,
  secret: 'left out',
}));
const ask = (body: BodyInit, { query = '', pierId = id } = {}): Promise<Response> =>
  route(
    new Request(`http://localhost/api/v1/piers/${pierId}${query}`, {
      method: 'POST',
      body,
      duplex: 'half',
    } as RequestInit),
    { params: Promise.resolve({ pierId }) },
  );
const sentence = async (answer: Response): Promise<string> => ((await answer.json()) as { detail: string }).detail;

test('ids, query and body reach the service, and the answer follows its schema', async () => {
  const answer = await ask('{"name":"East"}', { query: '?times=3' });
  expect(answer.status).toBe(201);
  expect(await answer.json()).toEqual({ name: 'East 1', times: 3 });
});

test.each([
  ['a body that is no JSON', 'name=East', {}, 400, 'The request needs a body in JSON.'],
  ['a body that does not fit', '{"name":""}', {}, 400, 'A pier needs a name.'],
  ['a query that does not fit', '{"name":"East"}', { query: '?times=often' }, 400, /^times: /],
  ['an id that cannot be', '{"name":"East"}', { pierId: '1 or 1=1' }, 404, /no such pier/],
])('%s is refused with a sentence', async (_, body, rest, status, says) => {
  const answer = await ask(body, rest);
  expect(answer.status).toBe(status);
  expect(await sentence(answer)).toMatch(says);
});

test('a service may answer with another status', async () => {
  const other = serveAnyone(pier, async () => answered(pier, { name: 'same', times: 0 }, { status: 200 }));
  const request = new Request(`http://localhost/x`, { method: 'POST', body: '{"name":"a"}' });
  expect((await other(request, { params: Promise.resolve({ pierId: id }) })).status).toBe(200);
});

describe('a body that is too long', () => {
  test('is refused by what it says of itself, unread', async () => {
    const answer = await ask(`{"name":"${'x'.repeat(LARGEST_BODY)}"}`);
    expect(answer.status).toBe(413);
    expect(await sentence(answer)).toBe('A request without a file can have at most 1024 KB. Nothing was changed.');
  });

  test('is read no further than the limit where it says nothing of itself', async () => {
    let sent = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull(controller) {
        sent += 64 * 1024;
        controller.enqueue(new Uint8Array(64 * 1024).fill(32));
      },
    });
    expect((await ask(endless)).status).toBe(413);
    expect(sent).toBeLessThan(2 * LARGEST_BODY);
  });
});
