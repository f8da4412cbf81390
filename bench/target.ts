/** The running server, as a signed-in client sees it. */
import { createReadStream, createWriteStream, statSync } from 'node:fs';
import { get, request, type IncomingMessage } from 'node:http';
import { pipeline } from 'node:stream/promises';
import { demoPassword } from '../demo/people.ts';

export interface Target {
  readonly address: string;
  readonly serverPid: number;
  readonly cookie: string;
  readonly json: (path: string, method?: string, body?: unknown) => Promise<unknown>;
  readonly send: (path: string, form: FormData) => Promise<unknown>;
  /** Sends a file of the disk as a form, as a program does that streams it. */
  readonly sendFile: (path: string, file: string, name: string) => Promise<unknown>;
  /** Reads an answer to its end; gives its size. */
  readonly drain: (path: string) => Promise<number>;
  /** Reads an answer into a file. */
  readonly save: (path: string, file: string) => Promise<void>;
}

export async function signInTo(
  address: string,
  serverPid: number,
  email = 'tobias@quillmere.example',
): Promise<Target> {
  const answer = await fetch(`${address}/api/v1/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email, password: demoPassword }),
  });
  const cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? '';
  const ask = async (path: string, init: RequestInit): Promise<Response> => {
    const response = await fetch(`${address}/api/v1${path}`, {
      ...init,
      headers: { ...(init.headers as Record<string, string>), cookie },
    });
    if (!response.ok) throw new Error(`${path}: ${await response.text()}`);
    return response;
  };
  return {
    address,
    serverPid,
    cookie,
    json: async (path, method = 'GET', body) =>
      (
        await ask(path, {
          method,
          ...(body === undefined
            ? {}
            : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
        })
      ).json() as Promise<unknown>,
    send: async (path, form) => (await ask(path, { method: 'POST', body: form })).json() as Promise<unknown>,
    sendFile: (path, file, name) => sendFile(new URL(`${address}/api/v1${path}`), cookie, file, name),
    drain: async (path) => {
      let size = 0;
      for await (const piece of await answerOf(`${address}/api/v1${path}`, cookie)) size += (piece as Buffer).length;
      return size;
    },
    save: async (path, file) => pipeline(await answerOf(`${address}/api/v1${path}`, cookie), createWriteStream(file)),
  };
}

function sendFile(url: URL, cookie: string, file: string, name: string): Promise<unknown> {
  const boundary = 'ovrel-bench-0f3a9c';
  const head = `--${boundary}\r\ncontent-disposition: form-data; name="file"; filename="${name}"\r\ncontent-type: application/octet-stream\r\n\r\n`;
  const foot = `\r\n--${boundary}--\r\n`;
  return new Promise((resolve, reject) => {
    const post = request(
      url,
      {
        method: 'POST',
        agent: false,
        headers: {
          cookie,
          'content-type': `multipart/form-data; boundary=${boundary}`,
          'content-length': head.length + statSync(file).size + foot.length,
        },
      },
      (answer) => {
        let text = '';
        answer.setEncoding('utf8');
        answer.on('data', (piece: string) => {
          text += piece;
        });
        answer.on('end', () =>
          (answer.statusCode ?? 500) < 300 ? resolve(JSON.parse(text)) : reject(new Error(text)),
        );
      },
    );
    post.on('error', reject);
    post.write(head);
    createReadStream(file, { highWaterMark: 256 * 1024 })
      .on('error', reject)
      .on('end', () => post.end(foot))
      .pipe(post, { end: false });
  });
}

const answerOf = (url: string, cookie: string): Promise<IncomingMessage> =>
  new Promise((resolve, reject) => {
    get(url, { agent: false, headers: { cookie } }, (answer) =>
      (answer.statusCode ?? 500) < 300 ? resolve(answer) : reject(new Error(`${url}: ${answer.statusCode}`)),
    ).on('error', reject);
  });
