/**
 * npm run fuzz api [requests] [first seed]: every operation of the OpenAPI document, with values that nobody expects.
 * No answer may be a 500.
 */
import { rmSync } from 'node:fs';
import { inspect } from 'node:util';
import { dataFolder } from '../bin/lib/cluster.ts';
import { startInstance } from '../bin/lib/instance.ts';
import { demoPassword, demoPeople } from '../demo/people.ts';
import { Requests, type Documented } from './requests.ts';
import { randomFrom } from './mutate.ts';

const count = Number(process.argv[2] ?? 100_000);
const first = Number(process.argv[3] ?? 1);
const PORT = 3177;
const LANES = 4;
const PATIENCE = 120_000;

const data = dataFolder(undefined, '.ovrel-fuzz');
rmSync(data, { recursive: true, force: true });
const instance = await startInstance({ port: PORT, demo: true, data: () => data });
const statuses = new Map<number, number>();
const failures: string[] = [];
let next = first;

const address = (path: string): string => `${instance.address}${path}`;

async function signIn(): Promise<string> {
  const answer = await fetch(address('/api/v1/session'), {
    method: 'POST',
    body: JSON.stringify({ email: demoPeople[0]?.email, password: demoPassword }),
  });
  if (!answer.ok) throw new Error(`Signing in failed: ${await answer.text()}`);
  return answer.headers
    .getSetCookie()
    .map((cookie) => cookie.split(';')[0])
    .join('; ');
}

/** One request after another, signed in again whenever one of them has ended the session. */
async function lane(requests: Requests): Promise<void> {
  let cookie = await signIn();
  for (let seed = next++; seed < first + count; seed = next++) {
    const { path, said, init } = requests.make(randomFrom(seed));
    const found = await send(path, { ...init, headers: { ...init.headers, cookie } });
    statuses.set(found.status, (statuses.get(found.status) ?? 0) + 1);
    if (found.status === 401) cookie = await signIn();
    if (found.status === 500 || found.status === 0) failures.push(`seed ${seed}: ${said}: ${found.text.slice(0, 300)}`);
    if (found.status < 300) requests.learn(found.text);
    if (seed % 1000 === 0) console.log(`${seed - first} requests, ${failures.length} failures`);
  }
}

/** Status 0 is no answer at all. */
async function send(path: string, init: RequestInit): Promise<{ readonly status: number; readonly text: string }> {
  try {
    const answer = await fetch(address(path), { ...init, signal: AbortSignal.timeout(PATIENCE), redirect: 'manual' });
    if (!answer.headers.get('content-type')?.includes('json')) {
      await answer.body?.cancel();
      return { status: answer.status, text: '' };
    }
    return { status: answer.status, text: await answer.text() };
  } catch (error) {
    return { status: 0, text: `no answer: ${inspect(error)}` };
  }
}

try {
  const described = (await (await fetch(address('/api/openapi.json'))).json()) as Documented;
  const requests = new Requests(described);
  await Promise.all(Array.from({ length: LANES }, () => lane(requests)));
} finally {
  await instance.stop();
  rmSync(data, { recursive: true, force: true });
}
const told = [...statuses].sort(([a], [b]) => a - b).map(([status, times]) => `${status}: ${times}`);
console.log(told.join(', '));
for (const failure of failures.slice(0, 40)) console.log(failure);
console.log(`${count} requests, ${failures.length} failures`);
process.exit(failures.length > 0 ? 1 : 0);
