/** The running server, as a signed-in client sees it. */
import { demoPassword } from '../demo/people.ts';

export interface Target {
  readonly address: string;
  readonly serverPid: number;
  readonly cookie: string;
  readonly json: (path: string, method?: string, body?: unknown) => Promise<unknown>;
  readonly send: (path: string, form: FormData) => Promise<unknown>;
  /** Reads an answer to its end; gives its size. */
  readonly drain: (path: string) => Promise<number>;
}

export async function signInTo(address: string, serverPid: number): Promise<Target> {
  const answer = await fetch(`${address}/api/v1/session`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ email: 'tobias@quillmere.example', password: demoPassword }) });
  const cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? '';
  const ask = async (path: string, init: RequestInit): Promise<Response> => {
    const response = await fetch(`${address}/api/v1${path}`, { ...init, headers: { ...(init.headers as Record<string, string>), cookie } });
    if (!response.ok) throw new Error(`${path}: ${await response.text()}`);
    return response;
  };
  return {
    address, serverPid, cookie,
    json: async (path, method = 'GET', body) => (await ask(path, { method, ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }) })).json() as Promise<unknown>,
    send: async (path, form) => (await ask(path, { method: 'POST', body: form })).json() as Promise<unknown>,
    drain: async (path) => {
      let size = 0;
      const reader = (await ask(path, {})).body?.getReader();
      for (let next = await reader?.read(); next && !next.done; next = await reader?.read()) size += (next.value as Uint8Array).length;
      return size;
    },
  };
}
