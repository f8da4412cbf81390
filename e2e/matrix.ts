/** Every operation of the interface: what it needs, and how it is asked. */
import type { Right } from '../web/src/contract/access.ts';

/** What a request needs: a right in the project, a standing in Ovrel, or only to be signed in. */
export type Needs = Right | 'whole' | 'make projects' | 'tend' | 'people' | 'signed in' | 'nothing';

export interface Fixture {
  readonly project: string;
  readonly folder: string;
  /** Each act has a file of its own, so that none stands in the way of another. */
  readonly file: (what: string) => string;
  readonly newest: (what: string) => string;
  readonly oldest: string;
  readonly set: string;
  readonly person: string;
  /** Somebody whom nothing else needs, and somebody to be deleted. */
  readonly spare: string;
  readonly leaving: string;
  /** On the newest version of "drawn". */
  readonly comment: string;
}

export interface Asked {
  readonly needs: Needs;
  readonly path: (f: Fixture) => string;
  readonly body?: (f: Fixture) => unknown;
  readonly form?: (f: Fixture) => Record<string, unknown>;
  /** What an allowed request gives, where that is not a success: the right was there, but not what was asked for. */
  readonly gives?: readonly number[];
}

export const upload = (text: string): { name: string; mimeType: string; buffer: Buffer } => ({
  name: `${text}.txt`,
  mimeType: 'text/plain',
  buffer: Buffer.from(`${text} ${Math.random()}`),
});
const nowhere = '00000000-0000-4000-8000-000000000000';
const at = (path: string) => (): string => path;

/** Every operation of the interface, in the order in which they are asked. */
export const matrix: Readonly<Record<string, Asked>> = {
  'get /session': { needs: 'signed in', path: at('/session') },
  'get /people': { needs: 'people', path: at('/people') },
  'post /people': {
    needs: 'people',
    path: at('/people'),
    body: () => ({
      name: 'Someone',
      email: `s${Math.random()}@matrix.example`,
      password: 'long enough it is',
      role: 'guest',
    }),
  },
  'patch /people/{personId}': {
    needs: 'people',
    path: (f) => `/people/${f.spare}`,
    body: () => ({ name: 'Someone else' }),
  },
  'put /people/{personId}/password': {
    needs: 'people',
    path: (f) => `/people/${f.spare}/password`,
    body: () => ({ password: 'another one to change' }),
  },
  'delete /people/{personId}/sessions': { needs: 'people', path: (f) => `/people/${f.spare}/sessions` },
  'delete /people/{personId}/second-factor': { needs: 'people', path: (f) => `/people/${f.spare}/second-factor` },
  'delete /people/{personId}': { needs: 'people', path: (f) => `/people/${f.leaving}` },
  'get /account': { needs: 'signed in', path: at('/account') },
  'put /account/password': {
    needs: 'signed in',
    path: at('/account/password'),
    body: () => ({ own: 'wrong password', password: 'another one of mine' }),
    gives: [403],
  },
  'delete /account/sessions/{sessionId}': {
    needs: 'signed in',
    path: at(`/account/sessions/${nowhere}`),
    gives: [404],
  },
  'delete /account/sessions': { needs: 'signed in', path: at('/account/sessions') },
  'post /account/second-factor': {
    needs: 'signed in',
    path: at('/account/second-factor'),
    body: () => ({ own: 'wrong password' }),
    gives: [403],
  },
  'put /account/second-factor': {
    needs: 'signed in',
    path: at('/account/second-factor'),
    body: () => ({ code: '123456' }),
    gives: [409],
  },
  'post /account/second-factor/end': {
    needs: 'signed in',
    path: at('/account/second-factor/end'),
    body: () => ({ own: 'wrong password' }),
    gives: [403],
  },
  'get /projects': { needs: 'signed in', path: at('/projects') },
  'post /projects': { needs: 'make projects', path: at('/projects'), body: () => ({ name: `Made ${Math.random()}` }) },
  'get /projects/{projectId}': { needs: 'see', path: (f) => `/projects/${f.project}` },
  'patch /projects/{projectId}': {
    needs: 'manage',
    path: (f) => `/projects/${f.project}`,
    body: () => ({ noteRequired: false }),
  },
  'get /projects/{projectId}/access': { needs: 'see', path: (f) => `/projects/${f.project}/access` },
  'put /projects/{projectId}/access': {
    needs: 'manage',
    path: (f) => `/projects/${f.project}/access`,
    body: (f) => ({ folderId: f.folder, personId: f.person, rights: ['see'] }),
  },
  'get /projects/{projectId}/contents': { needs: 'see', path: (f) => `/projects/${f.project}/contents` },
  'get /projects/{projectId}/folders': { needs: 'see', path: (f) => `/projects/${f.project}/folders` },
  'post /projects/{projectId}/folders': {
    needs: 'check out',
    path: (f) => `/projects/${f.project}/folders`,
    body: () => ({ name: 'Another', parentId: null }),
  },
  'post /projects/{projectId}/files': {
    needs: 'check out',
    path: (f) => `/projects/${f.project}/files`,
    form: () => ({ note: '', file: upload('new') }),
  },
  'patch /folders/{folderId}': {
    needs: 'check out',
    path: (f) => `/folders/${f.folder}`,
    body: () => ({ name: 'Renamed' }),
  },
  'get /files/{fileId}': { needs: 'see', path: (f) => `/files/${f.file('plain')}` },
  'patch /files/{fileId}': {
    needs: 'check out',
    path: (f) => `/files/${f.file('plain')}`,
    body: () => ({ name: 'plain renamed.txt' }),
  },
  'get /files/{fileId}/versions': { needs: 'see', path: (f) => `/files/${f.file('old')}/versions` },
  'get /files/{fileId}/history': { needs: 'see old versions', path: (f) => `/files/${f.file('old')}/history` },
  'get /files/{fileId}/rail': { needs: 'see', path: (f) => `/files/${f.file('old')}/rail` },
  'post /files/{fileId}/versions': {
    needs: 'check out',
    path: (f) => `/files/${f.file('plain')}/versions`,
    form: () => ({ note: '', file: upload('plain') }),
  },
  'get /files/{fileId}/standing': { needs: 'see', path: (f) => `/files/${f.file('plain')}/standing` },
  'post /files/{fileId}/ask': {
    needs: 'check out',
    path: (f) => `/files/${f.file('held')}/ask`,
    body: () => ({ reason: 'needed' }),
  },
  'post /files/{fileId}/take-over': {
    needs: 'take over',
    path: (f) => `/files/${f.file('held')}/take-over`,
    body: () => ({ reason: 'urgent' }),
  },
  'get /versions/{versionId}/references': { needs: 'see', path: (f) => `/versions/${f.newest('plain')}/references` },
  'get /versions/{versionId}/with-references': {
    needs: 'see',
    path: (f) => `/versions/${f.newest('drawn')}/with-references`,
  },
  'post /files/{fileId}/references': {
    needs: 'check out',
    path: (f) => `/files/${f.file('old')}/references`,
    body: (f) => ({ to: f.file('drawn') }),
  },
  'delete /files/{fileId}/references': {
    needs: 'check out',
    path: (f) => `/files/${f.file('old')}/references`,
    body: (f) => ({ to: f.file('drawn') }),
  },
  'get /projects/{projectId}/desk': { needs: 'see', path: (f) => `/projects/${f.project}/desk` },
  'post /projects/{projectId}/known': {
    needs: 'see old versions',
    path: (f) => `/projects/${f.project}/known`,
    body: () => ({ files: [] }),
  },
  'post /projects/{projectId}/resembling': {
    needs: 'see',
    path: (f) => `/projects/${f.project}/resembling`,
    body: () => ({ files: [] }),
  },
  'get /checkouts': { needs: 'signed in', path: at('/checkouts') },
  'post /checkouts': { needs: 'check out', path: at('/checkouts'), body: (f) => ({ files: [f.file('drawn')] }) },
  'delete /checkouts': { needs: 'signed in', path: at('/checkouts'), body: (f) => ({ files: [f.file('drawn')] }) },
  'get /projects/{projectId}/sets': { needs: 'see old versions', path: (f) => `/projects/${f.project}/sets` },
  'post /projects/{projectId}/sets': {
    needs: 'check out',
    path: (f) => `/projects/${f.project}/sets`,
    form: () => ({ plan: JSON.stringify([{ name: 'of a set.txt' }]), note: '', file: upload('set') }),
  },
  'get /sets/{setId}': { needs: 'see old versions', path: (f) => `/sets/${f.set}` },
  'get /files/{fileId}/comments': {
    needs: 'see',
    path: (f) => `/files/${f.file('drawn')}/comments?version=${f.newest('drawn')}`,
  },
  'post /files/{fileId}/comments': {
    needs: 'see',
    path: (f) => `/files/${f.file('drawn')}/comments`,
    body: (f) => ({ version: f.newest('drawn'), body: 'A word' }),
  },
  'post /comments/{commentId}/replies': {
    needs: 'see',
    path: (f) => `/comments/${f.comment}/replies`,
    body: () => ({ body: 'Yes' }),
  },
  'patch /comments/{commentId}': {
    needs: 'see',
    path: (f) => `/comments/${f.comment}`,
    body: () => ({ resolved: true }),
  },
  'get /mentions': { needs: 'signed in', path: at('/mentions') },
  'get /preferences': { needs: 'signed in', path: at('/preferences') },
  'put /preferences': { needs: 'signed in', path: at('/preferences'), body: () => ({ ignore: {} }) },
  'get /versions/{versionId}': { needs: 'see old versions', path: (f) => `/versions/${f.oldest}` },
  'get /versions/{versionId}/content': { needs: 'see old versions', path: (f) => `/versions/${f.oldest}/content` },
  'get /versions/{versionId}/space': {
    needs: 'see',
    path: (f) => `/versions/${f.newest('drawn')}/space`,
    gives: [415],
  },
  'get /versions/{versionId}/cells': {
    needs: 'see',
    path: (f) => `/versions/${f.newest('drawn')}/cells`,
    gives: [415],
  },
  'get /versions/{versionId}/flat': {
    needs: 'see',
    path: (f) => `/versions/${f.newest('drawn')}/flat`,
    gives: [415],
  },
  'get /versions/{versionId}/flat-views': { needs: 'see', path: (f) => `/versions/${f.newest('drawn')}/flat-views` },
  'get /versions/{versionId}/scene': { needs: 'see', path: (f) => `/versions/${f.newest('drawn')}/scene` },
  'get /versions/{versionId}/view': { needs: 'see', path: (f) => `/versions/${f.newest('drawn')}/view` },
  'post /versions/{versionId}/unlock': {
    needs: 'see',
    path: (f) => `/versions/${f.newest('drawn')}/unlock`,
    body: () => ({ password: 'x' }),
    gives: [409],
  },
  'post /versions/{versionId}/unlock/view': {
    needs: 'see',
    path: (f) => `/versions/${f.newest('drawn')}/unlock/view`,
    body: () => ({ password: 'x', page: 0 }),
    gives: [409],
  },
  'post /comparisons/unlock': {
    needs: 'see old versions',
    path: at('/comparisons/unlock'),
    body: (f) => ({ a: f.oldest, b: f.newest('old'), passwordA: 'x' }),
    gives: [409],
  },
  'get /versions/{versionId}/thumbnail': { needs: 'see', path: (f) => `/versions/${f.newest('drawn')}/thumbnail` },
  'get /comparisons/report': {
    needs: 'see old versions',
    path: (f) => `/comparisons/report?a=${f.oldest}&b=${f.newest('old')}&as=csv`,
  },
  'get /comparisons/who': {
    needs: 'see old versions',
    path: (f) => `/comparisons/who?a=${f.oldest}&b=${f.newest('old')}`,
  },
  'get /comparisons/pages': {
    needs: 'see old versions',
    path: (f) => `/comparisons/pages?a=${f.oldest}&b=${f.newest('old')}`,
    gives: [415],
  },
  'get /comparisons/difference': {
    needs: 'see old versions',
    path: (f) => `/comparisons/difference?a=${f.oldest}&b=${f.newest('old')}`,
    gives: [415],
  },
  'get /comparisons': { needs: 'see old versions', path: (f) => `/comparisons?a=${f.oldest}&b=${f.newest('old')}` },
  'post /versions/{versionId}/bring-forward': {
    needs: 'bring forward',
    path: (f) => `/versions/${f.oldest}/bring-forward`,
    body: () => ({ note: '' }),
  },
  'get /versions/{versionId}/part': {
    needs: 'see',
    path: (f) => `/versions/${f.newest('drawn')}/part?x=50&y=50&reach=5`,
  },
  'get /versions/{versionId}/drawn-by': {
    needs: 'see old versions',
    path: (f) => `/versions/${f.newest('drawn')}/drawn-by`,
  },
  'post /projects/{projectId}/intake': {
    needs: 'check out',
    path: (f) => `/projects/${f.project}/intake`,
    form: () => ({
      plan: JSON.stringify([
        { name: `taken in ${Math.random()}.txt`, copies: [{ path: 'old.txt', line: 0, parent: null, at: null }] },
      ]),
      file: upload('plain'),
    }),
  },
  'post /files/{fileId}/saves': {
    needs: 'check out',
    path: (f) => `/files/${f.file('plain')}/saves`,
    form: () => ({ file: upload('plain') }),
  },
  'post /versions/{versionId}/leave': {
    needs: 'check out',
    path: (f) => `/versions/${f.newest('plain')}/leave`,
    body: () => ({}),
    gives: [409],
  },
  'patch /versions/{versionId}': {
    needs: 'check out',
    path: (f) => `/versions/${f.newest('plain')}`,
    body: () => ({ title: null }),
  },
  'post /versions/{versionId}/set-aside': {
    needs: 'check out',
    path: (f) => `/versions/${f.newest('plain')}/set-aside`,
    body: () => ({ name: 'aside' }),
    gives: [409],
  },
  'post /versions/{versionId}/lines': {
    needs: 'check out',
    path: (f) => `/versions/${f.newest('plain')}/lines`,
    body: () => ({ name: `Line ${Math.random()}` }),
  },
  'post /versions/{versionId}/files': {
    needs: 'check out',
    path: (f) => `/versions/${f.newest('plain')}/files`,
    body: () => ({ name: `made ${Math.random()}.txt` }),
  },
  'patch /lines/{lineId}': {
    needs: 'signed in',
    path: at(`/lines/${nowhere}`),
    body: () => ({ closed: true }),
    gives: [404],
  },
  'get /files/{fileId}/lineage': { needs: 'see', path: (f) => `/files/${f.file('plain')}/lineage` },
  'get /files/{fileId}/proposals': { needs: 'see', path: (f) => `/files/${f.file('drawn')}/proposals` },
  'post /files/{fileId}/proposals': {
    needs: 'check out',
    path: (f) => `/files/${f.file('drawn')}/proposals`,
    body: (f) => ({ asked: { kind: 'carry over', from: f.newest('drawn'), parts: [0] } }),
  },
  // Of what somebody is about to do nobody else is told that it is there.
  'get /proposals/{proposalId}': { needs: 'signed in', path: at(`/proposals/${nowhere}`), gives: [404] },
  'patch /proposals/{proposalId}': {
    needs: 'signed in',
    path: at(`/proposals/${nowhere}`),
    body: () => ({ decisions: {} }),
    gives: [404],
  },
  'post /proposals/{proposalId}/land': {
    needs: 'signed in',
    path: at(`/proposals/${nowhere}/land`),
    body: () => ({ note: '' }),
    gives: [404],
  },
  'post /proposals/{proposalId}/content': {
    needs: 'signed in',
    path: at(`/proposals/${nowhere}/content`),
    form: () => ({ file: upload('plain') }),
    gives: [404],
  },
  'delete /proposals/{proposalId}': { needs: 'signed in', path: at(`/proposals/${nowhere}`), gives: [404] },
  'get /versions/{versionId}/erase-back': { needs: 'erase', path: (f) => `/versions/${f.oldest}/erase-back` },
  'post /versions/{versionId}/erase-back': {
    needs: 'erase',
    path: (f) => `/versions/${f.oldest}/erase-back`,
    body: () => ({ reason: 'not wanted', name: 'another name' }),
    gives: [400],
  },
  'get /projects/{projectId}/as-of': {
    needs: 'see old versions',
    path: (f) => `/projects/${f.project}/as-of?at=2026-01-01T00:00:00Z`,
  },
  'post /projects/{projectId}/as-of': {
    needs: 'bring forward',
    path: (f) => `/projects/${f.project}/as-of`,
    body: () => ({ at: '2026-01-01T00:00:00Z' }),
    gives: [409],
  },
  'post /projects/{projectId}/title': {
    needs: 'check out',
    path: (f) => `/projects/${f.project}/title`,
    body: () => ({ folder: '00000000-0000-4000-8000-000000000000', title: 'nothing of it' }),
  },
  'post /projects/{projectId}/as-of/branch': {
    needs: 'make projects',
    path: (f) => `/projects/${f.project}/as-of/branch`,
    body: () => ({ at: '2026-01-01T00:00:00Z', name: 'nothing of it' }),
    gives: [409],
  },
  'get /projects/{projectId}/keeping': { needs: 'see', path: (f) => `/projects/${f.project}/keeping` },
  'put /projects/{projectId}/keeping': {
    needs: 'manage',
    path: (f) => `/projects/${f.project}/keeping`,
    body: () => ({ rule: null }),
  },
  'post /projects/{projectId}/keeping/trial': {
    needs: 'see old versions',
    path: (f) => `/projects/${f.project}/keeping/trial`,
    body: () => ({ rule: { 'check-in': [], autosave: [], backup: [] } }),
  },
  'get /projects/{projectId}/going': { needs: 'see old versions', path: (f) => `/projects/${f.project}/going` },
  'get /going': { needs: 'signed in', path: at('/going') },
  'get /files/{fileId}/going': { needs: 'see old versions', path: (f) => `/files/${f.file('plain')}/going` },
  'get /versions/{versionId}/fate': { needs: 'see old versions', path: (f) => `/versions/${f.newest('plain')}/fate` },
  'get /projects/{projectId}/sweep': { needs: 'see old versions', path: (f) => `/projects/${f.project}/sweep` },
  'post /projects/{projectId}/sweep': { needs: 'manage', path: (f) => `/projects/${f.project}/sweep` },
  'delete /projects/{projectId}/sweep': {
    needs: 'manage',
    path: (f) => `/projects/${f.project}/sweep`,
    // A worker may have carried it out already.
    gives: [204, 409],
  },
  'post /uploads': {
    needs: 'check out',
    path: at('/uploads'),
    body: (f) => ({ size: 3, fileId: f.file('plain') }),
  },
  'get /uploads/{uploadId}': { needs: 'signed in', path: at(`/uploads/${nowhere}`), gives: [404] },
  'post /uploads/{uploadId}/parts': {
    needs: 'signed in',
    path: at(`/uploads/${nowhere}/parts`),
    form: () => ({ at: '0', file: upload('part') }),
    gives: [404],
  },
  'get /versions/{versionId}/signature': { needs: 'see', path: (f) => `/versions/${f.newest('plain')}/signature` },
  'get /versions/{versionId}/difference': {
    needs: 'see',
    path: (f) => `/versions/${f.newest('plain')}/difference?from=${f.newest('plain')}`,
  },
  'post /home/visit': { needs: 'signed in', path: at('/home/visit') },
  'get /home': { needs: 'signed in', path: at('/home') },
  'get /files/{fileId}/follow': { needs: 'see', path: (f) => `/files/${f.file('plain')}/follow` },
  'put /files/{fileId}/follow': {
    needs: 'see',
    path: (f) => `/files/${f.file('plain')}/follow`,
    body: () => ({ follows: true }),
  },
  'get /files/{fileId}/matching': { needs: 'see old versions', path: (f) => `/files/${f.file('plain')}/matching` },
  'get /files/{fileId}/film': {
    needs: 'see old versions',
    path: (f) => `/files/${f.file('plain')}/film?versions=${f.newest('plain')}`,
    gives: [415],
  },
  'get /projects/{projectId}/days': { needs: 'see old versions', path: (f) => `/projects/${f.project}/days` },
  'get /projects/{projectId}/sets/count': {
    needs: 'see old versions',
    path: (f) => `/projects/${f.project}/sets/count`,
  },
  'get /watched': { needs: 'people', path: at('/watched') },
  'post /watched': {
    needs: 'people',
    path: at('/watched'),
    body: (f) => ({ path: 'no-such-folder', projectId: f.project }),
    gives: [400],
  },
  'delete /watched/{watchedId}': { needs: 'people', path: at(`/watched/${nowhere}`), gives: [404] },
  'post /watched/{watchedId}/look': { needs: 'people', path: at(`/watched/${nowhere}/look`), gives: [404] },
  'get /projects/{projectId}/archive': { needs: 'see', path: (f) => `/projects/${f.project}/archive` },
  'get /projects/{projectId}/deleted': { needs: 'see old versions', path: (f) => `/projects/${f.project}/deleted` },
  'delete /files/{fileId}': {
    needs: 'check out',
    path: (f) => `/files/${f.file('doomed')}`,
    body: () => ({ reason: 'not needed' }),
  },
  'post /files/{fileId}/bring-back': {
    needs: 'check out',
    path: (f) => `/files/${f.file('gone')}/bring-back`,
    body: () => ({}),
  },
  'get /ledger': { needs: 'see old versions', path: (f) => `/ledger?project=${f.project}` },
  'get /tokens': { needs: 'signed in', path: at('/tokens') },
  'post /tokens': { needs: 'signed in', path: at('/tokens'), body: () => ({ name: 'matrix', scope: 'read', days: 1 }) },
  'delete /tokens/{tokenId}': { needs: 'signed in', path: at(`/tokens/${nowhere}`), gives: [404] },
  'get /events': { needs: 'see', path: (f) => `/events?file=${f.file('plain')}` },
  'get /find': { needs: 'signed in', path: at('/find?q=plain') },
  'get /storage': { needs: 'whole', path: at('/storage') },
  'get /jobs': { needs: 'whole', path: at('/jobs') },
  'get /jobs/{jobId}': { needs: 'whole', path: at(`/jobs/${nowhere}`), gives: [404] },
  'post /jobs': { needs: 'tend', path: at('/jobs'), body: () => ({ kind: 'tally' }), gives: [201, 409] },
  'delete /jobs/{jobId}': { needs: 'tend', path: at(`/jobs/${nowhere}`), gives: [404] },
  'post /first-administrator': {
    needs: 'nothing',
    path: at('/first-administrator'),
    body: () => ({ name: 'x', email: 'x@matrix.example', password: 'long enough it is' }),
    gives: [409],
  },
  'post /session': {
    needs: 'nothing',
    path: at('/session'),
    body: () => ({ email: `nobody${Math.random()}@matrix.example`, password: 'wrong password' }),
    gives: [401],
  },
  'delete /session': { needs: 'nothing', path: at('/session') },
};
