/** OpenAPI 3.1, made from the operations that the routes and the browser use themselves. */
import { z } from 'zod';
import { problemSchema } from './api.ts';
import type { Operation } from './operation.ts';
import { api } from './operations/index.ts';

export const operations: readonly Operation[] = Object.values(api).flatMap((area) => Object.values<Operation>(area));

const schemaOf = (schema: z.ZodType, io: 'input' | 'output'): unknown => {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, { io });
  return rest;
};

export function openApi(): Record<string, unknown> {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const operation of operations)
    (paths[`/api/v1${operation.path}`] ??= {})[operation.method] = describe(operation);
  return {
    openapi: '3.1.0',
    info: {
      title: 'Ovrel',
      version: '1',
      description: 'Versions of drawings, models, graphics and the documents beside them.',
    },
    components: {
      securitySchemes: {
        session: { type: 'apiKey', in: 'cookie', name: 'ovrel_session' },
        token: { type: 'http', scheme: 'bearer' },
      },
      schemas: { Problem: schemaOf(problemSchema, 'output') },
    },
    paths,
  };
}

function answerOf({ answer, bytes }: Operation): Record<string, unknown> {
  if (answer) return { content: { 'application/json': { schema: schemaOf(answer, 'output') } } };
  return bytes ? { content: { [bytes]: {} } } : {};
}

function describe(o: Operation): Record<string, unknown> {
  const inPath = [...o.path.matchAll(/\{(\w+)\}/g)].map((m) => ({
    name: m[1],
    in: 'path',
    required: true,
    schema: { type: 'string', format: 'uuid' },
  }));
  const inQuery = Object.entries(o.query?.shape ?? {}).map(([name, schema]) => ({
    name,
    in: 'query',
    required: !(schema as z.ZodType).safeParse(undefined).success,
    schema: schemaOf(schema as z.ZodType, 'input'),
  }));
  const answer = answerOf(o);
  return {
    summary: o.summary,
    ...(inPath.length + inQuery.length ? { parameters: [...inPath, ...inQuery] } : {}),
    ...(o.body
      ? { requestBody: { required: true, content: { 'application/json': { schema: schemaOf(o.body, 'input') } } } }
      : {}),
    ...(o.form
      ? { requestBody: { required: true, content: { 'multipart/form-data': { schema: formSchema(o.form) } } } }
      : {}),
    responses: {
      [o.status ?? 200]: { description: o.summary, ...answer },
      default: {
        description: 'A problem, with a sentence for a person (RFC 9457)',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
    security: securityOf(o),
  };
}

function securityOf({ who }: Operation): readonly Record<string, unknown>[] {
  if (who === 'anyone') return [];
  if (who === 'person' || who === 'self') return [{ session: [] }];
  return [{ session: [] }, { token: [] }];
}

function formSchema(form: z.ZodObject): unknown {
  const schema = schemaOf(form, 'input') as { properties: Record<string, unknown>; required?: string[] };
  return {
    ...schema,
    properties: { ...schema.properties, file: { type: 'string', format: 'binary' } },
    required: [...(schema.required ?? []), 'file'],
  };
}
