/** Events for one open page, as a stream of server-sent events (HTML, "Server-sent events"). */
import type { Person } from '../../contract/api.ts';
import type { LiveEvent } from '../../contract/desk.ts';
import { db } from '../db/pool.ts';
import { sessionNow, tokenNow } from '../ledger/origin.ts';
import { filePlaces } from '../people/access-rows.ts';
import { permit, permitFile, scopeOf, type Scope } from '../people/access.ts';
import { hasSession, hasToken } from '../people/rows.ts';
import { Problem } from '../problem.ts';
import { getFile } from '../projects/service.ts';
import { appear, events, leave, stay } from './live.ts';

/** Sent when nothing else is, so that both ends notice a dead line; milliseconds. */
const PULSE = 20_000;

interface Wanted {
  readonly file?: string | undefined;
  readonly project?: string | undefined;
}

/** Events of a file, of a project, or all; who looks at a file is present there until the stream ends. */
export async function eventStream(
  by: Person,
  wanted: Wanted,
  signal: AbortSignal,
): Promise<ReadableStream<Uint8Array>> {
  const { file, project } = wanted;
  const scope = await scopeOf(by, 'see', file ? undefined : project);
  if (project && !scope.any(project)) await permit(by, 'see', { projectId: project, folderId: null });
  const projectId = file ? (await getFile(by, file)).projectId : project;
  const stillHeard = hearer(by, wanted);
  const presence = crypto.randomUUID();
  const utf8 = new TextEncoder();
  let close = (): void => undefined;
  return new ReadableStream<Uint8Array>({
    async start(controller) {
      const send = (text: string): void => {
        try {
          controller.enqueue(utf8.encode(text));
        } catch {
          close();
        }
      };
      const onEvent = (event: LiveEvent): void => {
        if (file ? event.file !== file : projectId && event.project !== projectId) return;
        stillHeard(event).then(
          (heard) => {
            if (heard === 'ended') close();
            else if (heard === 'told') send(`data: ${JSON.stringify(event)}\n\n`);
          },
          () => close(),
        );
      };
      const onAgain = (): void => send('event: again\ndata: {}\n\n');
      const pulse = setInterval(() => {
        send(': \n\n');
        if (file) void stay(presence).catch(() => undefined);
      }, PULSE);
      const source = events();
      source.on('event', onEvent);
      source.on('again', onAgain);
      close = () => {
        close = () => undefined;
        clearInterval(pulse);
        source.off('event', onEvent);
        source.off('again', onAgain);
        if (file && projectId) void leave(presence, file, projectId).catch(() => undefined);
        try {
          controller.close();
        } catch {
          // It is closed already.
        }
      };
      signal.addEventListener('abort', () => close());
      send(': \n\n');
      if (file && projectId) await appear(presence, by.id, file, projectId);
    },
    cancel: () => close(),
  });
}

/**
 * Whether an event is for somebody: told, kept from them, or the end of all telling, where they were put out
 * meanwhile.
 */
type Heard = 'told' | 'kept' | 'ended';

function hearer(by: Person, { file, project }: Wanted): (event: LiveEvent) => Promise<Heard> {
  const session = sessionNow();
  const token = tokenNow();
  return async (event) => {
    if (session && !(await hasSession(db(), session))) return 'ended';
    if (token !== undefined && !(await hasToken(db(), token))) return 'ended';
    if (file) return (await maySee(by, file)) ? 'told' : 'ended';
    const scope = await scopeOf(by, 'see', project);
    if (project && !scope.any(project)) return 'ended';
    return (await isOpen(scope, event)) ? 'told' : 'kept';
  };
}

const maySee = (by: Person, file: string): Promise<boolean> =>
  permitFile(by, 'see', file).then(
    () => true,
    (error: unknown) => {
      if (error instanceof Problem) return false;
      throw error;
    },
  );

/** What happens to a file is told where the file is open; what happens to a project, where anything of it is. */
async function isOpen(scope: Scope, { file, project }: LiveEvent): Promise<boolean> {
  if (file === null || scope.everywhere) return scope.any(project);
  const [place] = await filePlaces(db(), [file]);
  return place !== undefined && scope.has(place.project_id, place.folder_id);
}
