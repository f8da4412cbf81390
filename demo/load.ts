/** Puts the demo project into an empty installation, through the same services that the interface uses. */
import { readdirSync, rmSync, utimesSync } from 'node:fs';
import { join } from 'node:path';
import { plotted } from './drawings/plot.ts';
import { makeModel } from './models/make.ts';
import { steelWorkbook } from './tables/steel.ts';
import { layeredPoster, posterPrint } from './drawings/poster.ts';
import { photograph } from './drawings/photograph.ts';
import { lockedPages, plottedSheets } from './drawings/sheets.ts';
import { projectRoles } from '../web/src/contract/access.ts';
import type { Person } from '../web/src/contract/api.ts';
import { askFor, checkOut } from '../web/src/server/checkouts/service.ts';
import { addComment, reply, resolve } from '../web/src/server/comments/service.ts';
import { closeWorkers } from '../web/src/server/compute/pool.ts';
import { closePools, db, one } from '../web/src/server/db/pool.ts';
import { config } from '../web/src/server/config.ts';
import { savesRule, setRule } from '../web/src/server/projects/rules.ts';
import { lookNow, makeWatched } from '../web/src/server/watched/service.ts';
import { saveInto } from './share-program.ts';
import { startLine } from '../web/src/server/lines/service.ts';
import { readWhole } from '../web/src/server/store/reader.ts';
import { versionRow } from '../web/src/server/versions/rows.ts';
import { save } from '../web/src/server/saving/service.ts';
import { setKeeping } from '../web/src/server/keeping/service.ts';
import { setAccess } from '../web/src/server/people/granting.ts';
import { hashPassword } from '../web/src/server/people/passwords.ts';
import { makeFolder, makeProject } from '../web/src/server/projects/service.ts';
import { addReference } from '../web/src/server/references/service.ts';
import { deleteFile } from '../web/src/server/sets/deleting.ts';
import { checkIn, checkInSet, makeFile, type Incoming } from '../web/src/server/versions/checkin.ts';
import { closeQueue } from '../web/src/server/jobs/queue.ts';
import { runWaitingJobs } from '../web/src/server/jobs/run.ts';
import { bringForward, listVersions } from '../web/src/server/versions/service.ts';
import { demoPassword, demoPeople } from './people.ts';
import { deletedSketch, keepingRule, sheets, stories, twelveBolts, underWay, type Step, type Story } from './story.ts';

/** Of the stand-in for a network share. */
const SHARE = 'drawing-office';
const PROJECT = 'Quillmere ferry landing';

/** Loads the demo if it is wanted and nothing is there yet; true where the demo's people can sign in. */
export async function loadDemo(wanted: boolean): Promise<boolean> {
  try {
    if (await one(db(), 'select 1 from person limit 1'))
      return Boolean(await one(db(), 'select 1 from person where email = $1', [demoPeople[0]?.email]));
    if (!wanted) return false;
    console.log('Loading the demo project …');
    await load();
    // So that the first look at the demo does not wait; making it smaller is left to the worker.
    await runWaitingJobs(['look']);
    return true;
  } finally {
    await closeQueue();
    await Promise.all([closePools(), closeWorkers()]);
  }
}

async function load(): Promise<void> {
  const hash = await hashPassword(demoPassword);
  const people = new Map<string, Person>();
  for (const { name, email, role } of demoPeople) {
    const person = await one<Person>(
      db(),
      'insert into person (name, email, role, password_hash) values ($1, $2, $3, $4) returning id, name, email, role',
      [name, email, role, hash],
    );
    if (person) people.set(name.split(' ')[0] ?? name, person);
  }
  const lead = known(people, 'Tobias');
  const project = await makeProject(lead, PROJECT);
  const folders = new Map<string, string>();
  const ids = new Map<string, string>();
  for (const { folder } of stories())
    folders.set(folder, folders.get(folder) ?? (await makeFolder(lead, project.id, null, folder)).id);
  // In the order in which it happened, so that sets are numbered by time.
  const steps = stories()
    .flatMap((story) => story.steps.map((step) => ({ story, step })))
    .sort((a, b) => Date.parse(a.step.at) - Date.parse(b.step.at));
  for (const { story, step } of steps)
    ids.set(
      story.name,
      await tell(story, step, ids.get(story.name), project.id, folders.get(story.folder) ?? '', people),
    );
  await setKeeping(lead, project.id, { folder: undefined, content: undefined, rule: keepingRule });
  await together(project.id, folders, ids, people);
  await setAccess(
    lead,
    { projectId: project.id, folderId: folders.get('Graphics') ?? null },
    known(people, 'Wenna').id,
    ['see', 'see old versions', 'check out'],
  );
  await setAccess(lead, { projectId: project.id, folderId: null }, known(people, 'Jory').id, projectRoles.checker);
}

/**
 * What several people and files have to do with one another: a set, references, a deleted file, a check-out that
 * somebody asks for.
 */
async function together(
  projectId: string,
  folders: ReadonlyMap<string, string>,
  ids: ReadonlyMap<string, string>,
  people: ReadonlyMap<string, Person>,
): Promise<void> {
  const [tobias, ines, anselm] = [known(people, 'Tobias'), known(people, 'Ines'), known(people, 'Anselm')];
  const folderId = folders.get('Sheets') ?? (await makeFolder(tobias, projectId, null, 'Sheets')).id;
  const id = (name: string): string => ids.get(name) ?? '';
  const set = await checkInSet(
    tobias,
    projectId,
    sheets.map(({ name }) => ({ name, folderId })),
    (async function* () {
      for (const { name, content } of sheets) yield { name, bytes: pieces(new TextEncoder().encode(content)) };
    })(),
    { note: 'Both sheets for the harbour office, with the plan and the signs on them' },
  );
  const first = set.set?.files[0];
  if (first) await addReference(tobias, first.fileId, id('shelter.stl'), 'drawing of');
  await addReference(anselm, id('gangway-hinge.svg'), id('steel-schedule.csv'), 'steel for');
  const sketch = await makeFile(
    ines,
    projectId,
    folders.get('Graphics') ?? null,
    undefined,
    { name: deletedSketch.name, bytes: pieces(new TextEncoder().encode(deletedSketch.content)) },
    { note: deletedSketch.note },
  );
  await deleteFile(ines, sketch.file.id, deletedSketch.why);
  await checkOut(anselm, [id('method-statement.md')], { desk: 'the site hut' });
  await askFor(tobias, id('method-statement.md'), 'The harbour office wants a word on the tide tables by Friday.');
  await saveAsHeGoes(anselm, id('method-statement.md'));
  await talk(id('deck-framing.dxf'), people);
  await tryBeside(ines, id('gangway-hinge.svg'));
  await shareOfTheDrawingOffice(known(people, 'Marit'), projectId);
}

/** A share that a program saves into, and that is looked at: its numbered backups become versions. */
async function shareOfTheDrawingOffice(marit: Person, projectId: string): Promise<void> {
  const { watchedRoot } = config;
  if (watchedRoot === undefined) return;
  const folder = await makeFolder(marit, projectId, null, 'From the share');
  await setRule(marit, savesRule, { what: 'folder', id: folder.id }, true);
  rmSync(join(watchedRoot, SHARE), { recursive: true, force: true });
  for (let saves = 0; saves < 4; saves++) saveInto(join(watchedRoot, SHARE));
  // As if it had been saved a while ago: what was saved this moment is waited for.
  const before = new Date(Date.now() - 60_000);
  for (const name of readdirSync(join(watchedRoot, SHARE))) utimesSync(join(watchedRoot, SHARE, name), before, before);
  const watched = await makeWatched(marit, { path: SHARE, projectId, folderId: folder.id, everyMinutes: 5 });
  await lookNow(marit, watched.id);
}

/** What Anselm has under way: saves of one sitting, beside the main line until he checks in. */
async function saveAsHeGoes(anselm: Person, fileId: string): Promise<void> {
  const newest = (await listVersions(anselm, fileId)).at(-1);
  if (!newest) return;
  let text = (await readWhole((await versionRow(newest.id)).content_id)).toString();
  let base = newest.id;
  for (const sentence of underWay) {
    text = `${text.trimEnd()}\n\n${sentence}\n`;
    const file = { name: 'method-statement.md', bytes: pieces(new TextEncoder().encode(text)) };
    base = (await save(anselm, fileId, file, { key: undefined, base, title: undefined })).version.id;
  }
}

/** A line beside the main one: what Ines tries while the hinge goes on. */
async function tryBeside(ines: Person, fileId: string): Promise<void> {
  const second = (await listVersions(ines, fileId)).find((version) => version.number === 2);
  if (!second) return;
  const first = await startLine(ines, second.id, twelveBolts.line, twelveBolts.why);
  const file = { name: 'gangway-hinge.svg', bytes: pieces(new TextEncoder().encode(twelveBolts.content)) };
  await checkIn(ines, fileId, file, { note: twelveBolts.note, line: first.lineId, base: first.id });
}

/** A question at the gate of the framing plan, with an answer, and one that is settled. */
async function talk(fileId: string, people: ReadonlyMap<string, Person>): Promise<void> {
  const [ines, marit, anselm] = [known(people, 'Ines'), known(people, 'Marit'), known(people, 'Anselm')];
  const versions = await listVersions(ines, fileId);
  const [, second, , , fifth] = versions;
  if (!second || !fifth) return;
  const gate = await addComment(ines, fileId, {
    version: fifth.id,
    body: 'Does the gate clear the tender boat at low water, @Anselm?',
    at: { page: 'Model', x: 7500, y: 800, reach: 60 },
  });
  await reply(anselm, gate.id, 'By 300 mm at the lowest tide of the year.');
  const screws = await addComment(marit, fileId, {
    version: second.id,
    body: 'Two screws each leg, or one and a pin?',
    at: { page: 'Model', x: 60, y: -640, reach: 60 },
  });
  await resolve(anselm, screws.id, true);
}

/** Gives the file's id. */
async function tell(
  story: Story,
  step: Step,
  fileId: string | undefined,
  projectId: string,
  folderId: string,
  people: ReadonlyMap<string, Person>,
): Promise<string> {
  const by = known(people, step.who);
  const at = new Date(step.at);
  const { content } = step;
  if (typeof content === 'object' && 'forward' in content) {
    const source = fileId ? (await listVersions(by, fileId))[content.forward - 1] : undefined;
    if (source) await bringForward(by, source.id, step.note, at);
    return fileId ?? '';
  }
  const incoming: Incoming = { name: story.name, bytes: pieces(await bytesOf(content)) };
  const options = { note: step.note, at, ...(step.title ? { title: step.title } : {}) };
  if (!fileId) return (await makeFile(by, projectId, folderId, undefined, incoming, options)).file.id;
  await checkIn(by, fileId, incoming, options);
  return fileId;
}

async function bytesOf(content: Exclude<Step['content'], { forward: number }>): Promise<Uint8Array> {
  if (typeof content === 'string') return new TextEncoder().encode(content);
  if (content instanceof Uint8Array) return content;
  if ('shot' in content) return photograph(content.shot);
  if ('sheets' in content) return plottedSheets(content.sheets);
  if ('locked' in content) return lockedPages(content.locked);
  if ('plot' in content) return plotted(content.plot);
  if ('model' in content) return makeModel(content);
  if ('workbook' in content) return steelWorkbook(content.workbook);
  return 'layers' in content ? layeredPoster(content.layers) : posterPrint(content.print);
}

async function* pieces(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}

function known(people: ReadonlyMap<string, Person>, name: string): Person {
  const person = people.get(name);
  if (!person) throw new Error(`the demo has nobody called ${name}`);
  return person;
}
