/** Events for one open page, as a stream of server-sent events (HTML, "Server-sent events"). */
import type { Person } from '../../contract/api.ts';
import type { LiveEvent } from '../../contract/desk.ts';
import { permit, scopeOf } from '../people/access.ts';
import { getFile } from '../projects/service.ts';
import { appear, events, leave, stay } from './live.ts';

/** Sent when nothing else is, so that both ends notice a dead line; milliseconds. */
const PULSE = 20_000;

/** Events of a file, of a project, or all; who looks at a file is present there until the stream ends. */
export async function eventStream(
  by: Person,
  { file, project }: { file?: string | undefined; project?: string | undefined },
  signal: AbortSignal,
): Promise<ReadableStream<Uint8Array>> {
  const scope = await scopeOf(by, 'see', file ? undefined : project);
  if (project && !scope.any(project)) await permit(by, 'see', { projectId: project, folderId: null });
  const projectId = file ? (await getFile(by, file)).projectId : project;
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
        if (file ? event.file === file : (!projectId || event.project === projectId) && scope.any(event.project))
          send(`data: ${JSON.stringify(event)}\n\n`);
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
