/** What answers contain, not only their codes: nothing of what is closed to somebody is in any answer or page. */
import type { APIRequestContext } from '@playwright/test';
import { demoPassword } from '../demo/people.ts';
import { drawing, expect, test } from './support.ts';

/** Words that stand in what is closed, and nowhere else. */
const SECRETS = {
  folder: 'Quorvane',
  file: 'brimsett',
  note: 'tallowmere',
  content: 'oxbridle',
  comment: 'fennimark',
  reason: 'gribbelton',
  deleted: 'wexcombe',
} as const;

/** Words of older versions: closed to those who see the newest only. */
const OLD = { note: 'pellagrow', content: 'drumhollis', comment: 'yarrowick' } as const;

interface Made {
  readonly project: string;
  readonly open: string;
  readonly closed: string;
  readonly ids: Readonly<Record<string, readonly string[]>>;
}

const svg = (name: string, text: string): { name: string; mimeType: string; buffer: Buffer } => ({
  name,
  mimeType: 'image/svg+xml',
  buffer: Buffer.from(drawing(`<text x="9" y="40">${text}</text><rect width="90" height="9"/>`)),
});

async function enter(context: APIRequestContext, email: string, password = demoPassword): Promise<APIRequestContext> {
  expect((await context.post('/api/v1/session', { data: { email, password } })).status()).toBe(200);
  return context;
}

/** A project with a folder that is open, and one that is closed to whoever has no more than is said of them. */
async function makeProject(lead: APIRequestContext): Promise<Made> {
  const made = async <T>(path: string, sent: Parameters<APIRequestContext['post']>[1]): Promise<T> => {
    const answer = await lead.post(`/api/v1${path}`, sent);
    expect(answer.ok(), `${path}: ${await answer.text()}`).toBe(true);
    return (await answer.json()) as T;
  };
  type File = { file: { id: string; newest: { id: string } } };
  const project = (await made<{ id: string }>('/projects', { data: { name: `Leaks ${Date.now()}` } })).id;
  const folder = async (name: string): Promise<string> =>
    (await made<{ id: string }>(`/projects/${project}/folders`, { data: { name, parentId: null } })).id;
  const [open, closed] = [await folder('Signs'), await folder(SECRETS.folder)];
  const add = (folderId: string, note: string, file: ReturnType<typeof svg>): Promise<File> =>
    made<File>(`/projects/${project}/files`, { multipart: { note, folderId, file } });
  const seen = (await add(open, OLD.note, svg('sign.svg', OLD.content))).file;
  const hidden = (await add(closed, SECRETS.note, svg(`${SECRETS.file}.svg`, SECRETS.content))).file;
  const gone = (await add(closed, '', svg(`${SECRETS.deleted}.svg`, 'gone'))).file;
  const remark = (file: string, version: string, body: string): Promise<{ id: string }> =>
    made(`/files/${file}/comments`, { data: { version, body } });
  const comments = [
    await remark(seen.id, seen.newest.id, `${OLD.comment} @Wenna Strand`),
    await remark(hidden.id, hidden.newest.id, `${SECRETS.comment} @Wenna Strand`),
  ];
  const newer = await made<{ version: { id: string } }>(`/files/${seen.id}/versions`, {
    multipart: { note: 'For all', file: svg('sign.svg', 'for all') },
  });
  await made('/checkouts', { data: { files: [hidden.id] } });
  await lead.delete(`/api/v1/files/${gone.id}`, { data: { reason: SECRETS.reason } });
  const sets = (await (await lead.get(`/api/v1/projects/${project}/sets`)).json()) as { id: string }[];
  return {
    project,
    open,
    closed,
    ids: {
      projectId: [project],
      folderId: [open, closed],
      fileId: [seen.id, hidden.id, gone.id],
      versionId: [seen.newest.id, newer.version.id, hidden.newest.id, gone.newest.id],
      setId: sets.map(({ id }) => id),
      commentId: comments.map(({ id }) => id),
    },
  };
}

/** Every address that can be read, with every id that there is, and queries that search for what is closed. */
function addressesOf(paths: readonly string[], { ids, project, closed }: Made): string[] {
  const words = [...Object.values(SECRETS), ...Object.values(OLD)];
  const [old = '', newest = '', hidden = ''] = ids['versionId'] ?? [];
  const pairs = [
    [old, newest],
    [hidden, newest],
    [newest, hidden],
    [hidden, hidden],
  ].map(([a, b]) => `a=${a}&b=${b}`);
  const queries: Readonly<Record<string, readonly string[]>> = {
    '/api/v1/find': words.map((word) => `q=${word.slice(0, 6)}`),
    '/api/v1/ledger': [
      '',
      `project=${project}`,
      ...words.map((word) => `words=${word}`),
      ...(ids['fileId'] ?? []).map((file) => `file=${file}`),
      'as=csv',
      `as=json&project=${project}`,
    ],
    '/api/v1/projects/{projectId}/contents': ['', `folder=${closed}`],
    '/api/v1/projects/{projectId}/access': ['', `folder=${closed}`],
    '/api/v1/projects/{projectId}/archive': ['', `folder=${closed}`, `at=${new Date(Date.now() + 1000).toISOString()}`],
    '/api/v1/projects/{projectId}/sets': ['', ...(ids['fileId'] ?? []).map((file) => `file=${file}`)],
    '/api/v1/files/{fileId}/comments': (ids['versionId'] ?? []).map((version) => `version=${version}`),
    '/api/v1/checkouts': ['', 'mine=yes', `project=${project}`],
  };
  const expand = (path: string): string[] => {
    const [, name] = /\{(\w+)\}/.exec(path) ?? [];
    if (name === undefined) return [path];
    return (ids[name] ?? []).flatMap((id) => expand(path.replace(`{${name}}`, id)));
  };
  return paths
    .filter((path) => !path.endsWith('/events'))
    .flatMap((path) => {
      const asked = path.includes('/comparisons') ? pairs.map((pair) => `${pair}&as=html`) : (queries[path] ?? ['']);
      return expand(path).flatMap((address) => asked.map((query) => (query ? `${address}?${query}` : address)));
    });
}

const pagesOf = ({ ids, project, open, closed }: Made): string[] => [
  '/',
  '/desk',
  '/ledger',
  '/people',
  '/storage',
  ...['', '/history', '/deleted', '/access', '/desk'].map((below) => `/projects/${project}${below}`),
  ...[open, closed].map((folder) => `/projects/${project}?folder=${folder}`),
  ...(ids['fileId'] ?? []).map((file) => `/files/${file}`),
];

/** Secrets that an answer has, also in the members of an archive. */
function secretsIn(body: Buffer, secrets: readonly string[], address: string): string[] {
  const text = body.toString('latin1');
  // What somebody searched for may be said back to them.
  return secrets.filter((word) => text.includes(word) && !address.includes(word.slice(0, 6)));
}

const personas = [
  {
    name: 'sees the newest of one folder',
    rights: ['see'],
    secrets: [...Object.values(SECRETS), ...Object.values(OLD)],
  },
  {
    name: 'sees everything of one folder',
    rights: ['see', 'see old versions', 'check out'],
    secrets: Object.values(SECRETS),
  },
  { name: 'sees nothing', rights: undefined, secrets: [...Object.values(SECRETS), ...Object.values(OLD), 'sign.svg'] },
] as const;

for (const { name, rights, secrets } of personas)
  test(`no answer and no page has anything of what is closed to a guest who ${name}`, async ({
    playwright,
    baseURL,
  }) => {
    test.slow();
    const context = (): Promise<APIRequestContext> => playwright.request.newContext(baseURL ? { baseURL } : {});
    const lead = await enter(await context(), 'tobias@quillmere.example');
    const made = await makeProject(lead);
    const guest = await enter(await context(), 'wenna@quillmere.example');
    const { person } = (await (await guest.get('/api/v1/session')).json()) as { person: { id: string } };
    if (rights) {
      const data = { folderId: made.open, personId: person.id, rights };
      expect((await lead.put(`/api/v1/projects/${made.project}/access`, { data })).status()).toBe(200);
    }
    const { paths } = (await (await guest.get('/api/openapi.json')).json()) as {
      paths: Record<string, Record<string, unknown>>;
    };
    const readable = Object.keys(paths).filter((path) => 'get' in (paths[path] ?? {}));
    const addresses = [...addressesOf(readable, made), ...pagesOf(made)];
    const found: string[] = [];
    let answered = 0;
    for (const address of addresses) {
      const answer = await guest.get(address, { maxRedirects: 0, timeout: 60_000 });
      expect(answer.status(), address).toBeLessThan(500);
      if (answer.ok()) answered += 1;
      for (const word of secretsIn(await answer.body(), secrets, address)) found.push(`${word} in ${address}`);
    }
    expect(found).toEqual([]);
    // It was not for want of answers that nothing was found, nor for want of secrets.
    expect(answered).toBeGreaterThan(rights ? 30 : 10);
    if (rights) {
      const data = { folderId: made.open, personId: person.id, rights: null };
      expect((await lead.put(`/api/v1/projects/${made.project}/access`, { data })).status()).toBe(200);
    }
    const contents = await lead.get(`/api/v1/projects/${made.project}/contents?folder=${made.closed}`);
    expect(await contents.text()).toContain(SECRETS.file);
    await lead.dispose();
    await guest.dispose();
  });
