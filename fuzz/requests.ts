/** Requests by an OpenAPI document, most of them nearly right. */
import type { Random } from './mutate.ts';
import { bodyFor, oddText, once, oneOf, valueFor, type Schema, type Source } from './odd-values.ts';

interface Parameter {
  readonly name: string;
  readonly in: string;
  readonly required: boolean;
  readonly schema: Schema;
}

interface Described {
  readonly parameters?: readonly Parameter[];
  readonly requestBody?: { readonly content: Readonly<Record<string, { readonly schema: Schema }>> };
}

/** What is used of an OpenAPI document. */
export interface Documented {
  readonly paths: Readonly<Record<string, Readonly<Record<string, Described>>>>;
}

interface Call extends Described {
  readonly path: string;
  readonly method: string;
}

/** A request, and what it is in one line. */
export interface Made {
  readonly path: string;
  readonly init: { readonly method: string; readonly headers: Record<string, string>; readonly body?: string };
  readonly said: string;
}

const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS', 'HEAD'];
const MOST_IDS = 500;
const UUID = /[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}/g;
const NOBODY = '00000000-0000-4000-8000-000000000000';

export class Requests {
  private readonly calls: readonly Call[];
  private readonly ids = new Set<string>([NOBODY]);

  constructor({ paths }: Documented) {
    this.calls = Object.entries(paths).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, described]) => ({ ...described, path, method: method.toUpperCase() })),
    );
  }

  /** Takes up the ids in an answer: the next requests ask for what there is. */
  learn(answer: string): void {
    for (const id of answer.match(UUID) ?? []) if (this.ids.size < MOST_IDS) this.ids.add(id);
  }

  make(random: Random): Made {
    const source: Source = { random, ids: [...this.ids] };
    const call = oneOf(source, this.calls);
    const method = once(source, 40) ? oneOf(source, METHODS) : call.method;
    const path = call.path.replace(/\{\w+\}/g, () => encodeURIComponent(wellFormed(idFor(source))));
    const query = queryOf(call, source);
    const { type, body } = contentOf(call, source);
    const headers: Record<string, string> = type ? { 'content-type': type } : {};
    if (once(source, 20))
      headers['range'] = `bytes=${oneOf(source, ['9-1', '-0', '0-', '0-0,2-3', '99999999999999999999-'])}`;
    if (once(source, 40)) headers['last-event-id'] = oneOf(source, ['x', '-1', '9'.repeat(40)]);
    const carries = body !== undefined && method !== 'GET' && method !== 'HEAD';
    const whole = query ? `${path}?${query}` : path;
    return {
      path: whole,
      init: { method, headers, ...(carries ? { body } : {}) },
      said: `${method} ${whole.slice(0, 300)} ${carries ? body.slice(0, 300) : ''}`,
    };
  }
}

const idFor = (source: Source): string => (once(source, 30) ? oddText(source) || 'x' : oneOf(source, source.ids));

/** Half of a pair of UTF-16 cannot stand in an address. */
const wellFormed = (text: string): string => text.toWellFormed();

function queryOf({ parameters = [] }: Call, source: Source): string {
  const asked = new URLSearchParams();
  for (const { name, required, schema, in: where } of parameters) {
    const leftOut = where !== 'query' || once(source, required ? 20 : 2);
    if (!leftOut) asked.append(name, wellFormed(asText(valueFor(schema, source))));
  }
  if (once(source, 30)) asked.append(wellFormed(oddText(source)), wellFormed(oddText(source)));
  return asked.toString();
}

const asText = (value: unknown): string => (typeof value === 'string' ? value : (JSON.stringify(value) ?? ''));

function contentOf({ requestBody }: Call, source: Source): { readonly type?: string; readonly body?: string } {
  const [type, described] = Object.entries(requestBody?.content ?? {})[0] ?? [];
  if (!type || !described) return once(source, 20) ? { type: 'application/json', body: oddText(source) } : {};
  if (type !== 'multipart/form-data') return { type, body: bodyFor(described.schema, source) };
  return formFor(described.schema, source);
}

const DRAWINGS = [
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h9"/></svg>',
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><rect width="4" height="1e999"/></svg>',
  '<svg',
  '',
  '%PDF-1.7',
  'mark,length\nB1,4200\n',
];

function formFor({ properties = {} }: Schema, source: Source): { readonly type: string; readonly body: string } {
  const boundary = 'piece-of-a-form';
  const type = once(source, 20)
    ? oneOf(source, [
        'multipart/form-data',
        'multipart/form-data; boundary=',
        'text/plain',
        `multipart/form-data; boundary=${'b'.repeat(200)}`,
      ])
    : `multipart/form-data; boundary=${boundary}`;
  const pieces = Object.entries(properties)
    .filter(([name]) => name !== 'file' && !once(source, 2))
    .map(
      ([name, schema]) =>
        `--${boundary}\r\ncontent-disposition: form-data; name="${name}"\r\n\r\n${asText(valueFor(schema, source))}\r\n`,
    );
  const name = once(source, 3) ? oddText(source) : `sheet ${source.random(1000)}.svg`;
  const head = `--${boundary}\r\ncontent-disposition: form-data; name="file"; filename="${name}"\r\ncontent-type: image/svg+xml\r\n\r\n`;
  const whole = `${pieces.join('')}${head}${oneOf(source, DRAWINGS)}\r\n--${boundary}--\r\n`;
  return { type, body: once(source, 20) ? whole.slice(0, source.random(whole.length)) : whole };
}
