/** OpenAPI 3.1, made from the schemas that the routes themselves use. */
import { z } from 'zod';
import * as access from './access.ts';
import * as api from './api.ts';
import * as comments from './comments.ts';
import * as desk from './desk.ts';
import { lookSchema } from './look.ts';
import * as preferences from './preferences.ts';
import * as history from './history.ts';
import * as report from './report.ts';
import * as storage from './storage.ts';

interface Operation {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  readonly path: string;
  readonly summary: string;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType;
  /** Fields of a multipart form that ends with `file`. */
  readonly form?: z.ZodObject;
  readonly answer?: z.ZodType;
  readonly status?: number;
  /** Media type of an answer that is not JSON. */
  readonly bytes?: string;
  readonly open?: boolean;
}

const note = z.string().max(4000).optional().describe('Why');
const list = z.array.bind(z);

export const operations: readonly Operation[] = [
  { method: 'get', path: '/session', summary: 'Who is signed in', answer: api.sessionSchema },
  {
    method: 'post',
    path: '/session',
    summary: 'Sign in',
    body: api.signInSchema,
    answer: api.sessionSchema,
    open: true,
  },
  { method: 'delete', path: '/session', summary: 'Sign out', status: 204, open: true },
  {
    method: 'post',
    path: '/first-administrator',
    summary: 'Make the first person of an empty installation',
    body: api.firstAdministratorSchema,
    answer: api.sessionSchema,
    status: 201,
    open: true,
  },
  {
    method: 'get',
    path: '/people',
    summary: 'Everyone who can sign in (administrators)',
    answer: list(api.personSchema),
  },
  {
    method: 'post',
    path: '/people',
    summary: 'Add a person (administrators)',
    body: api.newPersonSchema,
    answer: api.personSchema,
    status: 201,
  },
  { method: 'get', path: '/projects', summary: 'All projects', answer: list(api.projectSchema) },
  {
    method: 'post',
    path: '/projects',
    summary: 'Make a project',
    body: api.nameSchema,
    answer: api.projectSchema,
    status: 201,
  },
  { method: 'get', path: '/projects/{projectId}', summary: 'One project', answer: api.projectSchema },
  {
    method: 'patch',
    path: '/projects/{projectId}',
    summary: 'Rename a project, or say whether check-ins need a note',
    body: api.changeProjectSchema,
    answer: api.projectSchema,
  },
  {
    method: 'get',
    path: '/projects/{projectId}/access',
    summary: 'Who may do what in a project or one of its folders, and you yourself',
    query: access.accessQuerySchema,
    answer: access.accessSchema,
  },
  {
    method: 'put',
    path: '/projects/{projectId}/access',
    summary: 'Say what somebody, or everybody else, may do there',
    body: access.setAccessSchema,
    answer: access.accessSchema,
  },
  {
    method: 'get',
    path: '/projects/{projectId}/contents',
    summary: 'Folders and files at one level',
    query: z.object({ folder: z.uuid().optional() }),
    answer: api.contentsSchema,
  },
  {
    method: 'get',
    path: '/projects/{projectId}/folders',
    summary: 'All folders of a project',
    answer: list(api.folderSchema),
  },
  {
    method: 'post',
    path: '/projects/{projectId}/folders',
    summary: 'Make a folder',
    body: api.newFolderSchema,
    answer: api.folderSchema,
    status: 201,
  },
  {
    method: 'post',
    path: '/projects/{projectId}/files',
    summary: 'Make a file with its first version',
    form: z.object({ name: z.string().optional(), folderId: z.uuid().optional(), note }),
    answer: z.object({ file: api.fileSchema, hints: list(z.string()) }),
    status: 201,
  },
  {
    method: 'patch',
    path: '/folders/{folderId}',
    summary: 'Rename or move a folder, or say whether check-ins need a note',
    body: api.changeFolderSchema,
    answer: api.folderSchema,
  },
  { method: 'get', path: '/files/{fileId}', summary: 'One file with its newest version', answer: api.fileSchema },
  {
    method: 'patch',
    path: '/files/{fileId}',
    summary: 'Rename or move a file',
    body: api.changeFileSchema,
    answer: api.fileSchema,
  },
  {
    method: 'get',
    path: '/files/{fileId}/versions',
    summary: 'Versions of a window of numbers, oldest first',
    query: api.versionsQuerySchema,
    answer: list(api.versionSchema),
  },
  {
    method: 'get',
    path: '/files/{fileId}/history',
    summary: 'Versions of a file and what else was done with it, the latest first',
    query: history.historyQuerySchema,
    answer: history.fileHistorySchema,
  },
  {
    method: 'get',
    path: '/files/{fileId}/rail',
    summary: 'What the rail shows of every version',
    query: api.lineQuerySchema,
    answer: api.railSchema,
  },
  {
    method: 'post',
    path: '/files/{fileId}/versions',
    summary: 'Check in a version',
    form: z.object({
      note,
      base: z
        .uuid()
        .optional()
        .describe('The newest version that you have seen; with it a newer one is not overlooked'),
      allowOtherFormat: z.enum(['yes', 'no']).optional(),
      keep: z.enum(['yes', 'no']).optional().describe('Keep it checked out'),
      branch: z.enum(['yes', 'no']).optional().describe('Start a branch from `base`'),
    }),
    answer: api.checkInResultSchema,
    status: 201,
  },
  {
    method: 'delete',
    path: '/files/{fileId}',
    summary: 'Delete a file; its versions stay, and it can be brought back',
    body: desk.deleteSchema,
    status: 204,
  },
  {
    method: 'post',
    path: '/files/{fileId}/bring-back',
    summary: 'Bring a deleted file back, at any version',
    body: desk.bringBackSchema,
    answer: api.fileSchema,
  },
  {
    method: 'get',
    path: '/files/{fileId}/standing',
    summary: 'Who holds the file, who asks for it, who looks at it',
    answer: desk.standingSchema,
  },
  {
    method: 'post',
    path: '/files/{fileId}/ask',
    summary: 'Ask the holder to give a file back',
    body: desk.reasonSchema,
    answer: desk.standingSchema,
  },
  {
    method: 'post',
    path: '/files/{fileId}/take-over',
    summary: 'Take a check-out over (needs the right “take over”)',
    body: desk.reasonSchema,
    answer: desk.standingSchema,
  },
  {
    method: 'post',
    path: '/versions/{versionId}/unlock',
    summary: 'What is in a document that is locked with a password; the password is not kept',
    body: api.unlockSchema,
    answer: lookSchema,
  },
  {
    method: 'post',
    path: '/versions/{versionId}/unlock/view',
    summary: 'A page of a document that is locked with a password',
    body: api.unlockViewSchema,
    bytes: 'image/png',
  },
  {
    method: 'get',
    path: '/comparisons/pages',
    summary:
      'Which pages of two PDF documents changed, before it is known what changed on them. With “Accept: application/x-ndjson” lines of JSON come while the documents are read, each with what is known so far',
    query: api.pairQuerySchema,
    answer: api.pageListSchema,
  },
  {
    method: 'post',
    path: '/comparisons/unlock',
    summary: 'What changed between two versions of which one or both are locked with a password',
    body: api.unlockComparisonSchema,
    answer: api.comparisonResponseSchema,
  },
  {
    method: 'get',
    path: '/versions/{versionId}/references',
    summary: 'What a version needs, and which files need its file',
    answer: desk.referencesSchema,
  },
  {
    method: 'get',
    path: '/versions/{versionId}/with-references',
    summary: 'A version with all that it needs, as a ZIP',
    query: desk.withReferencesQuerySchema,
    bytes: 'application/zip',
  },
  {
    method: 'post',
    path: '/files/{fileId}/references',
    summary: 'Say that a file needs another one',
    body: desk.addReferenceSchema,
    status: 204,
  },
  {
    method: 'delete',
    path: '/files/{fileId}/references',
    summary: 'Take such a reference back',
    body: desk.removeReferenceSchema,
    status: 204,
  },
  {
    method: 'get',
    path: '/projects/{projectId}/desk',
    summary: 'Every file of a project with its path, newest version and holder',
    answer: list(desk.deskFileSchema),
  },
  {
    method: 'post',
    path: '/projects/{projectId}/known',
    summary: 'Which versions of their files contents on a desk are; those that are none are left out',
    body: desk.askKnownSchema,
    answer: list(desk.knownSchema),
  },
  {
    method: 'post',
    path: '/projects/{projectId}/resembling',
    summary: 'For files that a desk does not know: which file of the project each is most like',
    body: desk.askResemblingSchema,
    answer: list(desk.resemblingSchema),
  },
  {
    method: 'get',
    path: '/checkouts',
    summary: 'Who holds what',
    query: desk.heldQuerySchema,
    answer: list(desk.checkoutSchema),
  },
  {
    method: 'post',
    path: '/checkouts',
    summary: 'Check out several files: all, or none',
    body: desk.checkOutSchema,
    answer: list(desk.checkoutSchema),
    status: 201,
  },
  {
    method: 'delete',
    path: '/checkouts',
    summary: 'Give check-outs up, without a version',
    body: desk.giveUpSchema,
    answer: z.object({ givenUp: z.number().int() }),
  },
  {
    method: 'get',
    path: '/projects/{projectId}/sets',
    summary: 'Check-in sets, newest first',
    query: desk.setsQuerySchema,
    answer: list(desk.setSchema),
  },
  {
    method: 'post',
    path: '/projects/{projectId}/sets',
    summary:
      'Check in several files under one note: all, or none. `plan` is a JSON list with an entry for each file; the files follow in its order',
    form: z.object({ plan: z.string(), note }),
    answer: desk.setResultSchema,
    status: 201,
  },
  { method: 'get', path: '/sets/{setId}', summary: 'One check-in set', answer: desk.setSchema },
  { method: 'get', path: '/projects/{projectId}/deleted', summary: 'Deleted files', answer: list(desk.deletedSchema) },
  {
    method: 'get',
    path: '/ledger',
    summary: 'Who did what, newest first; or all that matches as CSV or JSON (`as`)',
    query: desk.ledgerQuerySchema,
    answer: desk.ledgerSchema,
  },
  { method: 'get', path: '/tokens', summary: 'Your access tokens', answer: list(desk.tokenSchema) },
  {
    method: 'post',
    path: '/tokens',
    summary: 'Make an access token for a program',
    body: desk.newTokenSchema,
    answer: desk.madeTokenSchema,
    status: 201,
  },
  { method: 'delete', path: '/tokens/{tokenId}', summary: 'Revoke an access token', answer: desk.tokenSchema },
  {
    method: 'get',
    path: '/events',
    summary: 'Server-sent events: what changes at a file or in a project',
    query: desk.eventsQuerySchema,
    bytes: 'text/event-stream',
  },
  {
    method: 'get',
    path: '/files/{fileId}/comments',
    summary: 'Comments, with their places in one version',
    query: comments.commentsQuerySchema,
    answer: list(comments.commentSchema),
  },
  {
    method: 'post',
    path: '/files/{fileId}/comments',
    summary: 'Comment on a version, a part or a point of it',
    body: comments.newCommentSchema,
    answer: comments.commentSchema,
    status: 201,
  },
  {
    method: 'patch',
    path: '/comments/{commentId}',
    summary: 'Resolve a comment, or open it again',
    body: comments.resolveSchema,
    status: 204,
  },
  {
    method: 'post',
    path: '/comments/{commentId}/replies',
    summary: 'Answer a comment',
    body: comments.replySchema,
    status: 204,
  },
  { method: 'get', path: '/mentions', summary: 'Open comments that mention you', answer: list(comments.mentionSchema) },
  { method: 'get', path: '/preferences', summary: 'What you set for yourself', answer: preferences.preferencesSchema },
  {
    method: 'put',
    path: '/preferences',
    summary: 'Set what you do not want to see in comparisons',
    body: preferences.preferencesSchema,
    answer: preferences.preferencesSchema,
  },
  { method: 'get', path: '/find', summary: 'Files by name', query: api.findQuerySchema, answer: api.foundSchema },
  {
    method: 'get',
    path: '/versions/{versionId}',
    summary: 'One version and what was found by looking into it',
    answer: api.versionDetailSchema,
  },
  {
    method: 'get',
    path: '/versions/{versionId}/content',
    summary: 'The bytes; ETag and single ranges',
    bytes: 'application/octet-stream',
  },
  {
    method: 'get',
    path: '/versions/{versionId}/scene',
    summary: 'A page of a drawing as arrays for a graphics processor, gzipped',
    query: api.pageQuerySchema,
    bytes: 'application/gzip',
  },
  {
    method: 'get',
    path: '/versions/{versionId}/view',
    summary: 'A picture for display; nothing in it runs',
    query: api.viewQuerySchema,
    bytes: 'image/*',
  },
  {
    method: 'get',
    path: '/versions/{versionId}/thumbnail',
    summary: 'A small picture',
    query: z.object({ side: z.enum(['96', '320']).optional() }),
    bytes: 'image/png',
  },
  {
    method: 'post',
    path: '/versions/{versionId}/bring-forward',
    summary: 'Make an older version the newest; nothing is removed',
    body: api.bringForwardSchema,
    answer: api.versionSchema,
    status: 201,
  },
  {
    method: 'get',
    path: '/projects/{projectId}/archive',
    summary: 'A project or folder as a ZIP, as it is or as it was at a moment',
    query: api.archiveQuerySchema,
    bytes: 'application/zip',
  },
  { method: 'get', path: '/storage', summary: 'What is kept and what it takes', answer: storage.storageSchema },
  {
    method: 'get',
    path: '/jobs',
    summary: 'Background work: running, waiting and lately ended',
    answer: storage.jobsSchema,
  },
  {
    method: 'post',
    path: '/jobs',
    summary: 'Start a tally, a scrub or a collection (leads and administrators)',
    body: storage.startJobSchema,
    answer: storage.jobSchema,
    status: 201,
  },
  { method: 'get', path: '/jobs/{jobId}', summary: 'One job', answer: storage.jobSchema },
  {
    method: 'delete',
    path: '/jobs/{jobId}',
    summary: 'Cancel a job; what it did so far stays',
    answer: storage.jobSchema,
  },
  {
    method: 'get',
    path: '/comparisons/report',
    summary: 'What changed between two versions, as a file',
    query: report.reportQuerySchema,
    bytes: 'application/octet-stream',
  },
  {
    method: 'get',
    path: '/comparisons/who',
    summary: 'Who made each change between two versions of one line',
    query: api.compareQuerySchema,
    answer: api.whoSchema,
  },
  {
    method: 'get',
    path: '/comparisons/difference',
    summary:
      'How much each square of 4 × 4 pixels differs between two pictures: bytes of 0.4 (CIEDE2000), first as seen, then beyond noise',
    query: api.pairQuerySchema,
    bytes: 'application/octet-stream',
  },
  {
    method: 'get',
    path: '/comparisons',
    summary: 'What changed between two versions',
    query: api.compareQuerySchema,
    answer: api.comparisonResponseSchema,
  },
];

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
      schemas: { Problem: schemaOf(api.problemSchema, 'output') },
    },
    paths,
  };
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
  const answer = o.answer
    ? { content: { 'application/json': { schema: schemaOf(o.answer, 'output') } } }
    : o.bytes
      ? { content: { [o.bytes]: {} } }
      : {};
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
    security: o.open ? [] : [{ session: [] }, ...(o.path.startsWith('/tokens') ? [] : [{ token: [] }])],
  };
}

function formSchema(form: z.ZodObject): unknown {
  const schema = schemaOf(form, 'input') as { properties: Record<string, unknown>; required?: string[] };
  return {
    ...schema,
    properties: { ...schema.properties, file: { type: 'string', format: 'binary' } },
    required: [...(schema.required ?? []), 'file'],
  };
}
