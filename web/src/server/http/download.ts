/** What downloads share: who asks, problems as sentences, and a broken connection where it is too late for one. */
import { pipeline } from 'node:stream/promises';
import type { NextApiRequest, NextApiResponse } from 'next';
import type { Person } from '../../contract/api.ts';
import { log } from '../log.ts';
import { zipStream, type Archive } from '../projects/archive.ts';
import { attachment } from './disposition.ts';
import { callerOf } from '../people/service.ts';
import { problemBody, signInFirst, toProblem } from './handler.ts';
import { readCookie, SESSION_COOKIE } from './session-cookie.ts';

export const download =
  (answer: (by: Person, request: NextApiRequest, response: NextApiResponse) => Promise<void>) =>
  async (request: NextApiRequest, response: NextApiResponse): Promise<void> => {
    try {
      const by = await callerOf({
        cookie: readCookie(request.headers.cookie, SESSION_COOKIE),
        authorization: request.headers.authorization ?? null,
        changes: false,
      });
      if (!by) throw signInFirst();
      await answer(by, request, response);
    } catch (error) {
      if (response.headersSent) {
        // A broken connection tells the receiver that the file is not complete.
        if ((error as { code?: string }).code !== 'ERR_STREAM_PREMATURE_CLOSE')
          log.error({ error: String(error) }, 'a download broke off');
        response.destroy();
        return;
      }
      const problem = toProblem(error, `GET ${request.url ?? ''}`);
      for (const name of ['content-disposition', 'content-length', 'etag']) response.removeHeader(name);
      response
        .status(problem.status)
        .setHeader('content-type', 'application/problem+json')
        .end(JSON.stringify(problemBody(problem)));
    }
  };

/** Sends an archive while it is made. */
export async function sendArchive(response: NextApiResponse, { fileName, entries }: Archive): Promise<void> {
  response.status(200);
  response.setHeader('content-type', 'application/zip');
  response.setHeader('content-disposition', attachment(fileName));
  response.setHeader('cache-control', 'private, no-store');
  response.setHeader('x-content-type-options', 'nosniff');
  await pipeline(zipStream(entries), response);
}
