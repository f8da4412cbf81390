import { z } from 'zod';
import { Problem } from '../problem.ts';
import { body, checkId, json, open, problemBody, query, toProblem } from './handler.ts';
import { withUpload } from './multipart.ts';

const call = (
  handler: ReturnType<typeof open>,
  url = 'http://localhost:3000/api/v1/x',
  init: RequestInit = {},
  params: Record<string, string> = {},
): Promise<Response> => handler(new Request(url, init), { params: Promise.resolve(params) });

describe('answers', () => {
  const schema = z.object({ n: z.number() });

  test('are JSON after their schema, and never cached', async () => {
    const response = await call(open(async () => json(schema, { n: 1 }, 201, { 'x-more': 'yes' })));
    expect(response.status).toBe(201);
    expect(await response.json()).toEqual({ n: 1 });
    expect(response.headers.get('cache-control')).toBe('no-store');
    expect(response.headers.get('x-more')).toBe('yes');
  });

  test('that do not fit their schema are a failure, not a surprise for the caller', async () => {
    const response = await call(open(async () => json(schema, { n: 'one' } as never)));
    expect(response.status).toBe(500);
    expect(await response.json()).toMatchObject({
      detail: expect.stringMatching(/^Something went wrong here, and nothing was changed/),
    });
  });

  test('known failures are problem details with a sentence', async () => {
    const response = await call(
      open(async () => {
        throw new Problem(409, 'name-taken', 'There is already a file called “a”.', { where: 'here' });
      }),
    );
    expect(response.status).toBe(409);
    expect(response.headers.get('content-type')).toBe('application/problem+json');
    expect(await response.json()).toEqual({
      type: '/problems/name-taken',
      title: 'In conflict',
      status: 409,
      detail: 'There is already a file called “a”.',
      where: 'here',
    });
  });

  test('unknown failures say nothing of the inside, but have a number', async () => {
    const response = await call(
      open(async () => {
        throw new Error('password=hunter2');
      }),
    );
    const text = await response.text();
    expect(response.status).toBe(500);
    expect(text).not.toContain('hunter2');
    expect(text).toMatch(/tell an administrator the number [0-9a-f]{8}/);
  });

  test('a database without a free connection is said to be busy', () => {
    expect(toProblem(new Error('timeout exceeded when trying to connect'), 'x')).toMatchObject({
      status: 503,
      code: 'busy',
    });
  });
});

describe('input', () => {
  const schema = z.object({ name: z.string().min(1, 'A pier needs a name.'), size: z.number().optional() });
  const post = (text: string): Promise<unknown> =>
    body(new Request('http://x/', { method: 'POST', body: text }), schema);

  test('is checked, with the schema’s own sentences', async () => {
    await expect(post('{"name":"a"}')).resolves.toEqual({ name: 'a' });
    await expect(post('not json')).rejects.toMatchObject({ status: 400, message: 'The request needs a body in JSON.' });
    const problem = await post('{"name":""}').catch((e: unknown) => toProblem(e, 'x'));
    expect(problem).toMatchObject({ status: 400, message: 'A pier needs a name.' });
    const wrong = await post('{"name":"a","size":"big"}').catch((e: unknown) => problemBody(toProblem(e, 'x')));
    expect(wrong).toMatchObject({ status: 400, detail: expect.stringMatching(/^size: /) });
  });

  test.each([
    ['in a text', '{"name":"pi\\u0000er"}'],
    ['in the name of a field', '{"name":"a","\\u0000":1}'],
    ['half of one', '{"name":"pier \\ud83d"}'],
    ['somewhere deep', '{"name":"a","more":[[{"x":["\\u0000"]}]]}'],
  ])('a character that no database keeps, %s, is told', async (_, text) =>
    expect(post(text)).rejects.toMatchObject({
      status: 400,
      message: 'A text contains a character that cannot be kept: NUL, or half of one.',
    }),
  );

  test('nesting deeper than anybody reads is bad input', async () => {
    const deep = `{"name":"a","more":${'['.repeat(20_000)}${']'.repeat(20_000)}}`;
    await expect(post(deep)).resolves.toEqual({ name: 'a' });
    await expect(post(`${'['.repeat(20_000)}${']'.repeat(20_000)}`)).rejects.toMatchObject({ status: 400 });
  });

  test('queries too', () => {
    expect(query(new URL('http://x/?q=pier'), z.object({ q: z.string() }))).toEqual({ q: 'pier' });
    expect(() => query(new URL('http://x/'), z.object({ q: z.string() }))).toThrow();
  });

  test('ids that cannot be are not found', async () => {
    expect(() => checkId('fileId', "1' or 1=1")).toThrow(/no such file/);
    expect(
      (
        await call(
          open(async () => new Response('in')),
          undefined,
          {},
          { versionId: 'x' },
        )
      ).status,
    ).toBe(404);
    expect(
      (
        await call(
          open(async () => new Response('in')),
          undefined,
          {},
          { versionId: '00000000-0000-4000-8000-000000000000' },
        )
      ).status,
    ).toBe(200);
  });

  test.each([
    ['POST', 'http://localhost:3000', 200],
    ['POST', 'https://elsewhere.example', 403],
    ['POST', 'null', 403],
    ['DELETE', 'http://localhost:3001', 403],
    ['GET', 'https://elsewhere.example', 200],
  ])('%s from %s: %d', async (method, origin, status) => {
    const response = await call(
      open(async () => new Response('in')),
      undefined,
      { method, headers: { origin, host: 'localhost:3000' } },
    );
    expect(response.status).toBe(status);
  });
});

describe('uploads', () => {
  const BOUNDARY = 'cut-here';
  const field = (name: string, value: string): string =>
    `--${BOUNDARY}\r\ncontent-disposition: form-data; name="${name}"\r\n\r\n${value}\r\n`;
  const file = (name: string, content: string): string =>
    `--${BOUNDARY}\r\ncontent-disposition: form-data; name="file"; filename="${name}"\r\ncontent-type: application/octet-stream\r\n\r\n${content}\r\n`;
  const END = `--${BOUNDARY}--\r\n`;

  /** Sends the pieces one by one; an error breaks the line, null stands still. */
  function request(
    pieces: readonly (string | Error | null)[],
    type = `multipart/form-data; boundary=${BOUNDARY}`,
  ): Request {
    const queue = [...pieces];
    const stream = new ReadableStream<Uint8Array>({
      pull(controller) {
        const next = queue.shift();
        if (next === undefined) controller.close();
        else if (next instanceof Error) controller.error(next);
        else if (next !== null) controller.enqueue(new TextEncoder().encode(next));
        else return new Promise<void>(() => undefined);
        return undefined;
      },
    });
    return new Request('http://x/', {
      method: 'POST',
      headers: { 'content-type': type },
      body: stream,
      duplex: 'half',
    } as RequestInit);
  }
  const read = (r: Request): Promise<{ fields: Record<string, string>; name: string; text: string }> =>
    withUpload(r, async (fields, incoming) => {
      const out: Uint8Array[] = [];
      for await (const piece of incoming.bytes) out.push(piece);
      return { fields: { ...fields }, name: incoming.name, text: Buffer.concat(out).toString() };
    });

  test('give the fields and the file, however the bytes are cut', async () => {
    const whole = field('note', 'Größer') + field('base', '1') + file('Übersicht.svg', '<svg/>\r\n--not the end') + END;
    for (const size of [1, 7, whole.length]) {
      const pieces = whole.match(new RegExp(`[^]{1,${size}}`, 'g'))!;
      expect(await read(request(pieces))).toEqual({
        fields: { note: 'Größer', base: '1' },
        name: 'Übersicht.svg',
        text: '<svg/>\r\n--not the end',
      });
    }
  });

  test('an empty file is a file', async () =>
    expect(await read(request([file('a.txt', ''), END]))).toMatchObject({ name: 'a.txt', text: '' }));

  test.each([
    ['cut inside the file', [file('a.svg', 'half').slice(0, -2)]],
    ['cut before the end of the form', [file('a.svg', 'whole')]],
    ['a line that breaks', [file('a.svg', 'half').slice(0, -2), new Error('reset')]],
  ])('%s is never taken for a complete file', async (_, pieces) => {
    await expect(read(request(pieces))).rejects.toMatchObject({
      status: 400,
      message: expect.stringMatching(/broke off before the end. Nothing was stored/),
    });
  });

  test('a form without a file, and something that is no form, are told', async () => {
    await expect(read(request([field('note', 'x') + END]))).rejects.toMatchObject({ code: 'no-file' });
    await expect(read(request(['{}'], 'application/json'))).rejects.toMatchObject({ status: 415 });
    for (const type of ['multipart/form-data', 'multipart/form-data; boundary='])
      await expect(read(request([file('a.svg', 'x') + END], type))).rejects.toMatchObject({ status: 415 });
  });

  test('what is too much is refused with a code, and never cut off without a word', async () => {
    const two = file('a.svg', 'one') + file('b.svg', 'two') + END;
    await expect(read(request([two]))).rejects.toMatchObject({ status: 413, code: 'too-many-files' });
    const large = field('plan', 'x'.repeat(5_000_000)) + file('a.svg', 'one') + END;
    await expect(read(request([large]))).rejects.toMatchObject({ status: 413, code: 'too-large' });
    const fits = field('plan', 'x'.repeat(3_000_000)) + file('a.svg', 'one') + END;
    expect((await read(request([fits]))).fields['plan']).toHaveLength(3_000_000);
  });

  test('a sender that stands still is given up', async () => {
    process.env['OVREL_UPLOAD_STALL'] = '150';
    await expect(read(request([file('a.svg', 'half').slice(0, -2), null]))).rejects.toThrow(/stood still|broke off/);
    delete process.env['OVREL_UPLOAD_STALL'];
  });

  test('a refusal reads the rest away, so that the sender gets the answer', async () => {
    let left = 40;
    const stream = new ReadableStream<Uint8Array>({
      pull(controller) {
        if (left === 40) controller.enqueue(new TextEncoder().encode(file('a.svg', 'begin').slice(0, -2)));
        else controller.enqueue(new Uint8Array(100_000));
        if (--left === 0) controller.close();
      },
    });
    const r = new Request('http://x/', {
      method: 'POST',
      headers: { 'content-type': `multipart/form-data; boundary=${BOUNDARY}` },
      body: stream,
      duplex: 'half',
    } as RequestInit);
    await expect(
      withUpload(r, async () => {
        throw new Problem(409, 'other-format', 'Another kind.');
      }),
    ).rejects.toMatchObject({ code: 'other-format' });
    expect(left).toBe(0);
  });
});
