/** Projects, their folders and who may do what there. */
import { z } from 'zod';
import * as access from '../access.ts';
import * as api from '../api.ts';
import * as desk from '../desk.ts';
import {
  asOfQuerySchema,
  asOfSchema,
  branchedProjectSchema,
  branchProjectSchema,
  bringForwardToSchema,
  broughtForwardSchema,
  daysSchema,
  titledStateSchema,
  titleStateSchema,
} from '../as-of.ts';
import type { Operations } from '../operation.ts';

export const projects = {
  list: { method: 'get', path: '/projects', summary: 'All projects', answer: z.array(api.projectSchema) },
  make: {
    method: 'post',
    path: '/projects',
    summary: 'Make a project',
    body: api.nameSchema,
    answer: api.projectSchema,
    status: 201,
  },
  get: { method: 'get', path: '/projects/{projectId}', summary: 'One project', answer: api.projectSchema },
  change: {
    method: 'patch',
    path: '/projects/{projectId}',
    summary: 'Rename a project, or say whether check-ins need a note',
    body: api.changeProjectSchema,
    answer: api.projectSchema,
  },
  access: {
    method: 'get',
    path: '/projects/{projectId}/access',
    summary: 'Who may do what in a project or one of its folders, and you yourself',
    query: access.accessQuerySchema,
    answer: access.accessSchema,
  },
  setAccess: {
    method: 'put',
    path: '/projects/{projectId}/access',
    summary: 'Say what somebody, or everybody else, may do there',
    body: access.setAccessSchema,
    answer: access.accessSchema,
    who: 'person',
  },
  asOf: {
    method: 'get',
    path: '/projects/{projectId}/as-of',
    summary: 'A project or folder as it was at a moment, with what is the newest now',
    query: asOfQuerySchema,
    answer: asOfSchema,
  },
  days: {
    method: 'get',
    path: '/projects/{projectId}/days',
    summary: 'On which days versions were made in a project or folder, and how many',
    query: z.object({ folder: z.uuid().optional() }),
    answer: daysSchema,
  },
  bringForwardTo: {
    method: 'post',
    path: '/projects/{projectId}/as-of',
    summary:
      'Make the newest what was the newest at a moment, in one set; nothing is removed, and what came later stays unless it is to be deleted',
    body: bringForwardToSchema,
    answer: broughtForwardSchema,
    status: 201,
  },
  titleState: {
    method: 'post',
    path: '/projects/{projectId}/title',
    summary: 'Give the newest version of each file there a title, where it has none: the state that it is in stays',
    body: titleStateSchema,
    answer: titledStateSchema,
  },
  branchProject: {
    method: 'post',
    path: '/projects/{projectId}/as-of/branch',
    summary: 'Make a new project of what was there at a moment; each file knows where it comes from',
    body: branchProjectSchema,
    answer: branchedProjectSchema,
    status: 201,
  },
  contents: {
    method: 'get',
    path: '/projects/{projectId}/contents',
    summary: 'Folders and files at one level',
    query: z.object({ folder: z.uuid().optional() }),
    answer: api.contentsSchema,
  },
  folders: {
    method: 'get',
    path: '/projects/{projectId}/folders',
    summary: 'All folders of a project',
    answer: z.array(api.folderSchema),
  },
  makeFolder: {
    method: 'post',
    path: '/projects/{projectId}/folders',
    summary: 'Make a folder',
    body: api.newFolderSchema,
    answer: api.folderSchema,
    status: 201,
  },
  changeFolder: {
    method: 'patch',
    path: '/folders/{folderId}',
    summary: 'Rename or move a folder, or say whether check-ins need a note',
    body: api.changeFolderSchema,
    answer: api.folderSchema,
  },
  deleted: {
    method: 'get',
    path: '/projects/{projectId}/deleted',
    summary: 'Deleted files',
    answer: z.array(desk.deletedSchema),
  },
  find: { method: 'get', path: '/find', summary: 'Files by name', query: api.findQuerySchema, answer: api.foundSchema },
  archive: {
    method: 'get',
    path: '/projects/{projectId}/archive',
    summary: 'A project or folder as a ZIP, as it is or as it was at a moment',
    query: api.archiveQuerySchema,
    bytes: 'application/zip',
  },
} as const satisfies Operations;
