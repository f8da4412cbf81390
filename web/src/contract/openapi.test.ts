import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { Operations } from './operation.ts';
import { openApi, operations } from './openapi.ts';
import { api as areas } from './operations/index.ts';

const api = join(__dirname, '../app/api/v1');
const pages = join(__dirname, '../pages/api/v1');

function* routes(folder: string): Generator<string> {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) yield* routes(path);
    else if (name === 'route.ts') yield path;
  }
}

test('every route answers the operation of its own address and method, and no operation is left without one', () => {
  const there = new Set<string>();
  for (const path of routes(api)) {
    const address = path.slice(api.length, -'/route.ts'.length).replace(/\[(\w+)\]/g, '{$1}');
    const exported = readFileSync(path, 'utf8').matchAll(/export const (\w+) = serve\w*\(\s*(\w+)\.(\w+)/g);
    for (const [, method = '', area = '', name = ''] of exported) {
      const operation = (areas as Readonly<Record<string, Operations>>)[area]?.[name];
      expect(operation).toMatchObject({ method: method.toLowerCase(), path: address });
      there.add(`${method.toLowerCase()} ${address}`);
    }
  }
  // Handlers of pages stream, and only read.
  for (const path of [
    'versions/[versionId]/content',
    'versions/[versionId]/with-references',
    'projects/[projectId]/archive',
  ]) {
    if (existsSync(join(pages, `${path}.ts`))) there.add(`get /${path.replace(/\[(\w+)\]/g, '{$1}')}`);
  }
  expect([...operations.map((o) => `${o.method} ${o.path}`)].sort()).toEqual([...there].sort());
});

test('the document is OpenAPI 3.1 with schemas from Zod', () => {
  const document = JSON.parse(JSON.stringify(openApi())) as {
    openapi: string;
    paths: Record<
      string,
      Record<string, { responses: Record<string, { content?: Record<string, { schema: { properties: object } }> }> }>
    >;
  };
  expect(document.openapi).toBe('3.1.0');
  expect(
    document.paths['/api/v1/comparisons']!['get']!.responses['200']!.content!['application/json']!.schema.properties,
  ).toHaveProperty('comparison');
});
