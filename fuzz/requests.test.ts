import { bodyFor, valueFor, type Schema } from './odd-values.ts';
import { randomFrom } from './mutate.ts';
import { Requests, type Documented } from './requests.ts';

const ID = '4d0b7c1e-9a52-4c1b-8f3e-2a6d5e7f9b10';

const described: Documented = {
  paths: {
    '/api/v1/files/{fileId}': {
      get: { parameters: [{ name: 'fileId', in: 'path', required: true, schema: { type: 'string', format: 'uuid' } }] },
      patch: {
        requestBody: {
          content: { 'application/json': { schema: { type: 'object', properties: { name: { type: 'string' } } } } },
        },
      },
    },
    '/api/v1/find': {
      get: { parameters: [{ name: 'q', in: 'query', required: true, schema: { type: 'string' } }] },
    },
    '/api/v1/projects/{projectId}/files': {
      post: {
        requestBody: {
          content: {
            'multipart/form-data': {
              schema: { type: 'object', properties: { note: { type: 'string' }, file: { type: 'string' } } },
            },
          },
        },
      },
    },
  },
};

const requestsThatKnow = (): Requests => {
  const requests = new Requests(described);
  requests.learn(JSON.stringify({ file: { id: ID } }));
  return requests;
};

const many = Array.from({ length: 2000 }, (_, seed) => requestsThatKnow().make(randomFrom(seed)));

test('a seed makes the same request again', () => {
  expect(requestsThatKnow().make(randomFrom(7))).toEqual(many[7]);
  expect(new Set(many.map(({ said }) => said)).size).toBeGreaterThan(500);
});

test('every operation is asked, mostly of what there is, at times of what cannot be', () => {
  const asked = (method: string, part: string): number =>
    many.filter(({ init, path }) => init.method === method && path.includes(part)).length;
  for (const [method, part] of [
    ['GET', '/files/'],
    ['PATCH', '/files/'],
    ['GET', '/find'],
    ['POST', '/files'],
  ] as const)
    expect(asked(method, part)).toBeGreaterThan(200);
  expect(asked('GET', ID)).toBeGreaterThan(100);
  expect(many.some(({ path }) => path.includes('%00'))).toBe(true);
});

test('every address can be asked: nothing in it is half a character', () => {
  for (const { path } of many) expect(() => decodeURIComponent(path.split('?')[0] ?? '')).not.toThrow();
});

test('forms are mostly whole, some end in the middle, some have no boundary', () => {
  const forms = many.filter(({ init }) => init.headers['content-type']?.startsWith('multipart/'));
  const whole = forms.filter(
    ({ init }) => init.body?.endsWith('--\r\n') && init.headers['content-type']?.endsWith('=piece-of-a-form'),
  );
  expect(whole.length / forms.length).toBeGreaterThan(0.8);
  expect(whole.length).toBeLessThan(forms.length);
});

describe('values by a schema', () => {
  const schema: Schema = {
    type: 'object',
    required: ['kind', 'places'],
    properties: {
      kind: { enum: ['lead', 'guest'] },
      places: { type: 'array', items: { type: 'integer' } },
      on: { anyOf: [{ type: 'string', format: 'uuid' }, { type: 'null' }] },
    },
  };
  const source = (seed: number): Parameters<typeof valueFor>[1] => ({ random: randomFrom(seed), ids: [ID] });
  const values = Array.from({ length: 1000 }, (_, seed) => valueFor(schema, source(seed)));

  test('fit it more often than not', () => {
    const fits = (value: unknown): boolean => {
      const { kind, places } = (value ?? {}) as { kind?: unknown; places?: unknown };
      return ['lead', 'guest'].includes(kind as string) && Array.isArray(places) && places.every(Number.isInteger);
    };
    const share = values.filter(fits).length / values.length;
    expect(share).toBeGreaterThan(0.4);
    expect(share).toBeLessThan(0.95);
  });

  test('bodies are JSON of it, broken ones, and some that are nested deeper than anybody reads', () => {
    const bodies = Array.from({ length: 1000 }, (_, seed) => bodyFor(schema, source(seed)));
    const broken = bodies.filter((body) => {
      try {
        JSON.parse(body);
        return false;
      } catch {
        return true;
      }
    });
    expect(broken.length).toBeGreaterThan(5);
    expect(broken.length).toBeLessThan(200);
    expect(bodies.some((body) => body.startsWith('['.repeat(20_000)))).toBe(true);
  });
});
