import type { APIRequestContext } from '@playwright/test';
import { byDefault, projectRoles, type Right } from '../web/src/contract/access.ts';
import type { Role } from '../web/src/contract/api.ts';
import { demoPassword } from '../demo/people.ts';
import { matrix, upload, type Asked, type Fixture, type Needs } from './matrix.ts';
import { drawing, expect, test } from './support.ts';

const standings: Readonly<Record<Exclude<Needs, Right | 'signed in' | 'nothing'>, readonly Role[]>> = {
  whole: ['administrator', 'lead', 'editor', 'reader'],
  'make projects': ['administrator', 'lead'],
  tend: ['administrator', 'lead'],
  people: ['administrator'],
};

const personas: readonly { name: string; role: Role; rights: readonly Right[]; said: boolean }[] = [
  ...(['administrator', 'lead', 'editor', 'reader', 'guest'] as const).map((role) => ({
    name: `${role} in Ovrel`,
    role,
    rights: byDefault[role],
    said: false,
  })),
  ...Object.entries(projectRoles).map(([name, rights]) => ({
    name: `guest who is ${name} in the project`,
    role: 'guest' as const,
    rights,
    said: true,
  })),
];

test('every operation by every role: allowed where the right is there, else refused with whom to ask', async ({
  page,
  playwright,
  baseURL,
}) => {
  test.slow();
  const marit = await as(playwright.request.newContext(baseURL ? { baseURL } : {}), 'marit@quillmere.example');
  const described = (await (await marit.get('/api/openapi.json')).json()) as {
    paths: Record<string, Record<string, unknown>>;
  };
  const all = Object.entries(described.paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => `${method} ${path.replace('/api/v1', '')}`),
  );
  expect(Object.keys(matrix).sort()).toEqual(all.sort());
  const wrong: string[] = [];
  let asked = 0;
  for (const persona of personas) {
    const email = `${persona.name.replace(/\W+/g, '-')}-${Date.now()}@matrix.example`;
    const password = 'long enough it is';
    const { id } = (await (
      await marit.post('/api/v1/people', { data: { name: persona.name, email, password, role: persona.role } })
    ).json()) as { id: string };
    const fixture = await prepare(marit, persona.said ? { id, rights: persona.rights } : undefined);
    const person = await as(playwright.request.newContext(baseURL ? { baseURL } : {}), email, password);
    const own = { own: password, password: `${password}, indeed` };
    expect((await person.put('/api/v1/account/password', { data: own })).status()).toBe(200);
    const cookie = (await person.storageState()).cookies.map((c) => `${c.name}=${c.value}`).join('; ');
    for (const [name, op] of Object.entries(matrix)) {
      const method = (name.split(' ')[0] ?? '').toUpperCase();
      const allowed = isAllowed(op.needs, persona);
      const { status, said } = await ask(`${baseURL ?? ''}/api/v1${op.path(fixture)}`, method, cookie, op, fixture);
      const isDone = op.gives === undefined ? status < 300 : op.gives.includes(status);
      const right = allowed ? isDone : status === 403 && / Ask .+\.$/.test(said);
      if (!right)
        wrong.push(`${persona.name}: ${name} should be ${allowed ? 'allowed' : 'refused'}: ${status} ${said}`);
      asked++;
    }
    await person.dispose();
  }
  expect(wrong).toEqual([]);
  expect(asked).toBe(personas.length * all.length);
  await marit.dispose();
  await page.close();
});

const isAllowed = (needs: Needs, { role, rights }: { role: Role; rights: readonly Right[] }): boolean =>
  needs === 'nothing' ||
  needs === 'signed in' ||
  (needs in standings ? standings[needs as keyof typeof standings].includes(role) : rights.includes(needs as Right));

async function as(
  context: Promise<APIRequestContext>,
  email: string,
  password = demoPassword,
): Promise<APIRequestContext> {
  const made = await context;
  expect((await made.post('/api/v1/session', { data: { email, password } })).status()).toBe(200);
  return made;
}

/** Status, and the sentence of a refusal; what streams on is broken off. */
async function ask(
  url: string,
  method: string,
  cookie: string,
  op: Asked,
  fixture: Fixture,
): Promise<{ status: number; said: string }> {
  const stop = new AbortController();
  const headers: Record<string, string> = { cookie };
  let body: FormData | string | undefined;
  if (op.form) {
    body = new FormData();
    for (const [name, value] of Object.entries(op.form(fixture))) {
      if (typeof value === 'string') body.append(name, value);
      else
        body.append(
          name,
          new Blob([Uint8Array.from((value as ReturnType<typeof upload>).buffer)]),
          (value as ReturnType<typeof upload>).name,
        );
    }
  } else if (op.body) {
    headers['content-type'] = 'application/json';
    body = JSON.stringify(op.body(fixture));
  }
  const answer = await fetch(url, { method, headers, signal: stop.signal, ...(body === undefined ? {} : { body }) });
  const said = answer.ok ? '' : ((await answer.json()) as { detail: string }).detail;
  stop.abort();
  return { status: answer.status, said };
}

async function prepare(
  marit: APIRequestContext,
  granted: { id: string; rights: readonly Right[] } | undefined,
): Promise<Fixture> {
  const post = async <T>(path: string, data: unknown): Promise<T> => {
    const answer = await marit.post(`/api/v1${path}`, { data });
    expect(answer.ok(), `${path}: ${answer.ok() ? '' : await answer.text()}`).toBe(true);
    return (await answer.json()) as T;
  };
  const project = (await post<{ id: string }>('/projects', { name: `Matrix ${Math.random()}` })).id;
  const folder = (await post<{ id: string }>(`/projects/${project}/folders`, { name: 'Folder', parentId: null })).id;
  const files = new Map<string, { id: string; newest: { id: string; set: number } }>();
  const add = async (name: string, content: string, type = 'text/plain'): Promise<void> => {
    const made = await marit.post(`/api/v1/projects/${project}/files`, {
      multipart: { note: '', file: { name, mimeType: type, buffer: Buffer.from(content) } },
    });
    files.set(
      name.split('.')[0] ?? '',
      ((await made.json()) as { file: { id: string; newest: { id: string; set: number } } }).file,
    );
  };
  for (const name of ['plain.txt', 'old.txt', 'held.txt', 'doomed.txt', 'gone.txt'])
    await add(name, `${name} ${project}`);
  await add('drawn.svg', drawing('<circle cx="50" cy="50" r="20"/>'), 'image/svg+xml');
  const file = (what: string): string => files.get(what)?.id ?? '';
  const oldest = files.get('old')?.newest.id ?? '';
  const second = await marit.post(`/api/v1/files/${file('old')}/versions`, {
    multipart: { note: '', file: upload('old') },
  });
  const newest = ((await second.json()) as { version: { id: string } }).version.id;
  await post('/checkouts', { files: [file('held')] });
  await marit.delete(`/api/v1/files/${file('gone')}`, { data: { reason: 'by mistake' } });
  const sets = (await (await marit.get(`/api/v1/projects/${project}/sets`)).json()) as { id: string }[];
  const other = (await (await marit.get('/api/v1/people')).json()) as { id: string; role: string }[];
  const added = (name: string): Promise<{ id: string }> =>
    post('/people', {
      name,
      email: `${name}-${Math.random()}@matrix.example`,
      password: 'to be changed soon',
      role: 'guest',
    });
  const comment = (
    await post<{ id: string }>(`/files/${file('drawn')}/comments`, {
      version: files.get('drawn')?.newest.id,
      body: 'To be settled',
    })
  ).id;
  if (granted)
    await marit.put(`/api/v1/projects/${project}/access`, { data: { personId: granted.id, rights: granted.rights } });
  return {
    project,
    folder,
    file,
    newest: (what) => (what === 'old' ? newest : (files.get(what)?.newest.id ?? '')),
    oldest,
    set: sets[1]?.id ?? '',
    person: other.find((p) => p.role === 'reader')?.id ?? '',
    spare: (await added('spare')).id,
    leaving: (await added('leaving')).id,
    comment,
  };
}
