/** One version: its bytes, its pictures, what was found in it. */
import { z } from 'zod';
import * as api from '../api.ts';
import { drawnByQuerySchema, drawnBySchema } from '../drawn.ts';
import { lookSchema } from '../look.ts';
import type { Operations } from '../operation.ts';

export const versions = {
  unlock: {
    method: 'post',
    path: '/versions/{versionId}/unlock',
    summary: 'What is in a document that is locked with a password; the password is not kept',
    body: api.unlockSchema,
    answer: lookSchema,
    looks: true,
  },
  unlockView: {
    method: 'post',
    path: '/versions/{versionId}/unlock/view',
    summary: 'A page of a document that is locked with a password',
    body: api.unlockViewSchema,
    bytes: 'image/png',
    looks: true,
  },
  get: {
    method: 'get',
    path: '/versions/{versionId}',
    summary: 'One version and what was found by looking into it',
    query: api.againQuerySchema,
    answer: api.versionDetailSchema,
  },
  content: {
    method: 'get',
    path: '/versions/{versionId}/content',
    summary: 'The bytes; ETag and single ranges',
    bytes: 'application/octet-stream',
  },
  scene: {
    method: 'get',
    path: '/versions/{versionId}/scene',
    summary: 'A page of a drawing as arrays for a graphics processor, gzipped',
    query: api.pageQuerySchema,
    bytes: 'application/gzip',
  },
  space: {
    method: 'get',
    path: '/versions/{versionId}/space',
    summary: 'A model as arrays for a graphics processor, gzipped',
    bytes: 'application/gzip',
  },
  cells: {
    method: 'get',
    path: '/versions/{versionId}/cells',
    summary: 'A table: its sheets with values, formulas and looks, as JSON, gzipped',
    bytes: 'application/gzip',
  },
  flat: {
    method: 'get',
    path: '/versions/{versionId}/flat',
    summary: 'A model drawn flat: a plan or a side as lines, without what is hidden, as SVG or DXF',
    query: api.flatQuerySchema,
    bytes: 'image/*',
  },
  flatViews: {
    method: 'get',
    path: '/versions/{versionId}/flat-views',
    summary: 'Plans and sides that a model can be drawn as, by their numbers',
    answer: z.object({ views: z.array(z.string()) }),
  },
  view: {
    method: 'get',
    path: '/versions/{versionId}/view',
    summary: 'A picture for display; nothing in it runs',
    query: api.viewQuerySchema,
    bytes: 'image/*',
  },
  thumbnail: {
    method: 'get',
    path: '/versions/{versionId}/thumbnail',
    summary: 'A small picture',
    query: z.object({ side: z.enum(['96', '320', '1024']).optional().describe('Its longer side in pixels, at most') }),
    bytes: 'image/png',
  },
  signature: {
    method: 'get',
    path: '/versions/{versionId}/signature',
    summary: 'What one has to know of the version to send another as a delta: sums and hashes of its blocks',
    bytes: 'application/octet-stream',
  },
  difference: {
    method: 'get',
    path: '/versions/{versionId}/difference',
    summary: 'What is new in the version beside another, for those who have that one: a delta, packed with gzip',
    query: z.object({ from: z.uuid().describe('The version that one has') }),
    bytes: 'application/octet-stream',
  },
  title: {
    method: 'patch',
    path: '/versions/{versionId}',
    summary: 'Give a version a title, so that it is a keeper, or take it away; make it a starting state',
    body: api.titleSchema,
    answer: api.versionSchema,
  },
  setAside: {
    method: 'post',
    path: '/versions/{versionId}/set-aside',
    summary: 'Make what is there now a file of its own, and bring this starting state forward',
    body: api.setAsideSchema,
    answer: api.setAsideAnswerSchema,
    status: 201,
  },
  drawnBy: {
    method: 'get',
    path: '/versions/{versionId}/drawn-by',
    summary: 'Who put each part in and who changed it, and what was there and is gone',
    query: drawnByQuerySchema,
    answer: drawnBySchema,
  },
  part: {
    method: 'get',
    path: '/versions/{versionId}/part',
    summary: 'The part that is drawn at a point of a page',
    query: api.partQuerySchema,
    answer: api.partAnswerSchema,
  },
  bringForward: {
    method: 'post',
    path: '/versions/{versionId}/bring-forward',
    summary: 'Make an older version the newest; nothing is removed',
    body: api.bringForwardSchema,
    answer: api.versionSchema,
    status: 201,
  },
} as const satisfies Operations;
