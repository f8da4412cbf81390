import { api } from './operations/index.ts';
import { addressOf, linkTo, sayIssues, type Operations } from './operation.ts';
import { z } from 'zod';

const fileId = '00000000-0000-4000-8000-000000000001';

test('an address has the ids in their places, and of the query what is given', () => {
  expect(addressOf(api.files.get, { fileId })).toBe(`/files/${fileId}`);
  expect(addressOf(api.files.versions, { fileId, query: { from: 1, to: 200 } })).toBe(
    `/files/${fileId}/versions?from=1&to=200`,
  );
  expect(addressOf(api.projects.find, { query: { q: 'pier & quay' } })).toBe('/find?q=pier+%26+quay');
  expect(addressOf(api.projects.access, { projectId: fileId, query: { folder: undefined } })).toBe(
    `/projects/${fileId}/access`,
  );
  expect(linkTo(api.versions.content, { versionId: '../../people' })).toBe('/api/v1/versions/..%2F..%2Fpeople/content');
});

test('no two operations have the same method and path', () => {
  const all = Object.values<Operations>(api).flatMap((area) => Object.values(area));
  const names = all.map((o) => `${o.method} ${o.path}`);
  expect(new Set(names).size).toBe(names.length);
});

test('a token for reading opens only what changes nothing', () => {
  const open = Object.values<Operations>(api).flatMap((area) =>
    Object.entries(area).filter(([, operation]) => operation.looks),
  );
  expect(open.map(([name]) => name).sort()).toEqual(['known', 'resembling', 'try', 'unlock', 'unlock', 'unlockView']);
  for (const [name, { method, form, status }] of open)
    expect([name, method, form, status]).toEqual([name, 'post', undefined, undefined]);
});

test('what is wrong is said in the schema’s own sentences, or after the name of the field', () => {
  const schema = z.object({ name: z.string().min(1, 'A pier needs a name.'), size: z.number() });
  const { error } = schema.safeParse({ name: '', size: 'big' });
  expect(sayIssues(error!)).toMatch(/^A pier needs a name\. size: /);
});
