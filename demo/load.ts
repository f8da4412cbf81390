/** Puts the demo project into an empty installation, through the same services that the interface uses. */
import type { Person } from '../web/src/contract/api.ts';
import { closeWorkers } from '../web/src/server/compute/pool.ts';
import { closePools, db, one } from '../web/src/server/db/pool.ts';
import { hashPassword } from '../web/src/server/people/passwords.ts';
import { makeFolder, makeProject } from '../web/src/server/projects/service.ts';
import { checkIn, makeFile, type Incoming } from '../web/src/server/versions/checkin.ts';
import { closeQueue } from '../web/src/server/jobs/queue.ts';
import { runWaitingJobs } from '../web/src/server/jobs/run.ts';
import { bringForward, listVersions } from '../web/src/server/versions/service.ts';
import { demoPassword, demoPeople } from './people.ts';
import { stories, type Step, type Story } from './story.ts';

const PROJECT = 'Quillmere ferry landing';

/** Loads the demo if it is wanted and nothing is there yet; true where the demo's people can sign in. */
export async function loadDemo(wanted: boolean): Promise<boolean> {
  try {
    if (await one(db(), 'select 1 from person limit 1')) return Boolean(await one(db(), 'select 1 from person where email = $1', [demoPeople[0]?.email]));
    if (!wanted) return false;
    console.log('Loading the demo project …');
    await load();
    // So that the first look at the demo does not wait.
    await runWaitingJobs();
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
    const person = await one<Person>(db(), 'insert into person (name, email, role, password_hash) values ($1, $2, $3, $4) returning id, name, email, role', [name, email, role, hash]);
    if (person) people.set(name.split(' ')[0] ?? name, person);
  }
  const lead = known(people, 'Tobias');
  const project = await makeProject(lead, PROJECT);
  const folders = new Map<string, string>();
  for (const story of stories()) {
    const folder = folders.get(story.folder) ?? (await makeFolder(lead, project.id, null, story.folder)).id;
    folders.set(story.folder, folder);
    await tell(story, project.id, folder, people);
  }
}

async function tell(story: Story, projectId: string, folderId: string, people: ReadonlyMap<string, Person>): Promise<void> {
  let fileId: string | undefined;
  for (const step of story.steps) {
    const by = known(people, step.who), at = new Date(step.at), { content } = step;
    if (typeof content === 'object' && 'forward' in content) {
      const source = fileId ? (await listVersions(by, fileId))[content.forward - 1] : undefined;
      if (source) await bringForward(by, source.id, step.note, at);
      continue;
    }
    const incoming: Incoming = { name: story.name, bytes: pieces(await bytesOf(content)) };
    const options = { note: step.note, at, ...(step.title ? { title: step.title } : {}) };
    if (fileId) await checkIn(by, fileId, incoming, options);
    else fileId = (await makeFile(by, projectId, folderId, undefined, incoming, options)).file.id;
  }
}

async function bytesOf(content: Exclude<Step['content'], { forward: number }>): Promise<Uint8Array> {
  if (typeof content === 'string') return new TextEncoder().encode(content);
  if (content instanceof Uint8Array) return content;
  const { drawThumbnail } = await import('../web/src/server/compute/thumbnail.ts');
  const png = await drawThumbnail(Buffer.from(content.pictureOf), 'svg', 840);
  if (!png) throw new Error('the demo poster could not be drawn');
  return png;
}

async function* pieces(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}

function known(people: ReadonlyMap<string, Person>, name: string): Person {
  const person = people.get(name);
  if (!person) throw new Error(`the demo has nobody called ${name}`);
  return person;
}
