/**
 * Many people at once: 50 with pages open, who look at projects, files and versions and check in now and then, while two
 * long comparisons run. Answers are timed where the people are; they share the machine with the server.
 */
import { request } from 'node:http';
import { largeDrawing } from './compare.ts';
import { line, median, ms, residentMegabytes } from './measure.ts';
import { signInTo, type Target } from './target.ts';

const PEOPLE = 50;
/** Each way is measured for so long, in milliseconds. */
const DURATION = 90_000;
const MB = 1024 * 1024;
const NAMES = ['tobias', 'ines', 'anselm', 'marit'];

/** What somebody does next, and how often among a hundred. */
const DOES = {
  'project page': 14,
  'file page': 20,
  'list of files': 14,
  'list of versions': 14,
  thumbnail: 20,
  view: 12,
  'check-in of 1 MB': 6,
} as const;
type Deed = keyof typeof DOES;

interface Somebody {
  readonly cookie: string;
  /** A file of their own, into which they check in. */
  readonly file: string;
}

interface Seen {
  readonly project: string;
  readonly files: readonly { readonly id: string; readonly version: string }[];
}

type Times = Map<Deed | 'comparison', number[]>;

/** Reads an answer to its end; gives the time in milliseconds. Throws for a refusal. */
function timed(address: string, path: string, cookie: string, form?: Buffer): Promise<number> {
  const start = performance.now();
  return new Promise((resolve, reject) => {
    const failed = (error: Error): void => reject(new Error(`${path}: ${error.message}`));
    const headers = {
      cookie,
      ...(form && { 'content-type': 'multipart/form-data; boundary=ovrel-load', 'content-length': form.length }),
    };
    const asked = request(
      new URL(path, address),
      { method: form ? 'POST' : 'GET', headers, agent: false },
      (answer) => {
        let problem = '';
        answer.on('data', (piece: Buffer) => {
          if ((answer.statusCode ?? 500) >= 400) problem += piece.toString();
        });
        answer.on('end', () => {
          if ((answer.statusCode ?? 500) < 400) resolve(performance.now() - start);
          else reject(new Error(`${path}: ${answer.statusCode ?? 0} ${problem.slice(0, 200)}`));
        });
        answer.on('error', failed);
      },
    );
    asked.on('error', failed);
    asked.end(form);
  });
}

/** New bytes each time, half of them text. */
function megabyte(): Buffer {
  const bytes = Buffer.alloc(MB);
  let seed = Math.floor(Math.random() * 2 ** 31);
  for (let i = 0; i < MB / 2; i++) {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    bytes[i] = seed >>> 24;
  }
  bytes.fill(`${seed} gangway, timber, bolt, handrail; `, MB / 2);
  return bytes;
}

const formWith = (name: string, bytes: Uint8Array): Buffer =>
  Buffer.concat([
    Buffer.from(
      `--ovrel-load\r\ncontent-disposition: form-data; name="note"\r\n\r\n\r\n--ovrel-load\r\ncontent-disposition: form-data; name="file"; filename="${name}"\r\n\r\n`,
    ),
    bytes,
    Buffer.from('\r\n--ovrel-load--\r\n'),
  ]);

async function prepare(target: Target): Promise<{ seen: Seen; people: Somebody[] }> {
  const projects = (await target.json('/projects')) as { id: string; name: string }[];
  const demo = projects.find(({ name }) => name.includes('Quillmere'));
  const list = (await target.json(`/projects/${demo?.id}/desk`)) as { fileId: string; newest: { id: string } }[];
  const seen = {
    project: demo?.id ?? '',
    files: list.map((file) => ({ id: file.fileId, version: file.newest.id })),
  };
  const own = (await target.json('/projects', 'POST', { name: `Load ${Date.now()}` })) as { id: string };
  const people: Somebody[] = [];
  for (let i = 0; i < PEOPLE; i++) {
    const { cookie } = await signInTo(target.address, target.serverPid, `${NAMES[i % NAMES.length]}@quillmere.example`);
    const form = new FormData();
    form.append('file', new Blob([Uint8Array.from(megabyte())]), `of-${i}.bin`);
    const made = (await target.send(`/projects/${own.id}/files`, form)) as { file: { id: string } };
    people.push({ cookie, file: made.file.id });
  }
  return { seen, people };
}

const anyOf = <T>(list: readonly T[]): T => list[Math.floor(Math.random() * list.length)] as T;

function anyDeed(): Deed {
  let left = Math.random() * 100;
  for (const [deed, share] of Object.entries(DOES) as [Deed, number][]) {
    left -= share;
    if (left < 0) return deed;
  }
  return 'file page';
}

/** Of some kinds of file there is no picture, which is an answer, too, but not one to be timed. */
const orNone = (asked: Promise<number>): Promise<number> =>
  asked.catch((error: Error) => {
    if (/: (404|415|422) /.test(error.message)) return NaN;
    throw error;
  });

function doIt(address: string, { cookie, file: own }: Somebody, { project, files }: Seen, deed: Deed): Promise<number> {
  const { id, version } = anyOf(files);
  switch (deed) {
    case 'project page':
      return timed(address, `/projects/${project}`, cookie);
    case 'file page':
      return timed(address, `/files/${id}`, cookie);
    case 'list of files':
      return timed(address, `/api/v1/projects/${project}/contents`, cookie);
    case 'list of versions':
      return timed(address, `/api/v1/files/${id}/versions`, cookie);
    case 'thumbnail':
      return orNone(timed(address, `/api/v1/versions/${version}/thumbnail`, cookie));
    case 'view':
      return orNone(timed(address, `/api/v1/versions/${version}/view`, cookie));
    case 'check-in of 1 MB':
      return timed(address, `/api/v1/files/${own}/versions`, cookie, formWith('own.bin', megabyte()));
  }
}

const pause = (milliseconds: number): Promise<void> =>
  new Promise((done) => {
    setTimeout(done, milliseconds);
  });

/** One person for the whole time, with an event stream open. Pauses in milliseconds, from and to. */
async function live(
  target: Target,
  person: Somebody,
  seen: Seen,
  [from, to]: readonly [number, number],
  until: number,
  times: Times,
): Promise<void> {
  const away = new AbortController();
  void fetch(`${target.address}/api/v1/events?file=${anyOf(seen.files).id}`, {
    headers: { cookie: person.cookie },
    signal: away.signal,
  })
    .then((answer) => answer.text())
    .catch(() => undefined);
  await pause(Math.random() * to);
  while (performance.now() < until) {
    const deed = anyDeed();
    const took = await doIt(target.address, person, seen, deed);
    if (!Number.isNaN(took)) times.get(deed)?.push(took);
    await pause(from + Math.random() * (to - from));
  }
  away.abort();
}

/** Two drawings whose comparison takes long; new ones each time, so that nothing is known of them. */
async function longPair(target: Target, salt: string): Promise<string> {
  const project = (await target.json('/projects', 'POST', { name: `Long ${salt} ${Date.now()}` })) as { id: string };
  const versions: string[] = [];
  let fileId = '';
  for (const edited of [false, true]) {
    const text = Buffer.from(largeDrawing(120_000, edited, false))
      .toString()
      .replace('</svg>', `<!-- ${salt} --></svg>`);
    const form = new FormData();
    form.append('file', new Blob([text]), 'large.svg');
    const path = fileId ? `/files/${fileId}/versions` : `/projects/${project.id}/files`;
    const made = (await target.send(path, form)) as {
      file?: { id: string; newest: { id: string } };
      version?: { id: string };
    };
    fileId = made.file?.id ?? fileId;
    versions.push(made.version?.id ?? made.file?.newest.id ?? '');
  }
  return `/api/v1/comparisons?a=${versions[0]}&b=${versions[1]}`;
}

async function compareTwo(target: Target, salt: string): Promise<() => Promise<number>> {
  const pairs = [await longPair(target, `${salt} 1`), await longPair(target, `${salt} 2`)];
  return async () => {
    const start = performance.now();
    await Promise.all(pairs.map((path) => timed(target.address, path, target.cookie)));
    return performance.now() - start;
  };
}

const percentile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? NaN;

function tell(title: string, times: Times, memory: number, comparing: number, alone: number): void {
  console.log(`\n${title}`);
  for (const [deed, list] of times) {
    const goal = deed === 'check-in of 1 MB' ? 'goal < 1000' : 'goal < 300';
    const [middle, most, longest] = [median(list), percentile(list, 0.95), Math.max(...list)].map(Math.round);
    if (list.length > 0)
      line(`  ${deed}: median, 95 % and longest, ms`, `${middle} ${most} ${longest}`, `${goal}; ${list.length} times`);
  }
  line('  memory of the web process at most', `${Math.round(memory)} MB`, 'goal < 1000');
  line(
    '  two long comparisons ÷ alone',
    (comparing / alone).toFixed(2),
    `goal ≤ 2; ${ms(comparing)} against ${ms(alone)}`,
  );
}

export async function benchLoad(target: Target, people = PEOPLE): Promise<void> {
  const { seen, people: all } = await prepare(target);
  const alone = await (await compareTwo(target, 'alone'))();
  const ways = [
    ['people with pauses of 1 to 10 s', [1000, 10_000]],
    ['people with pauses of 2 s on average', [1000, 3000]],
    ['people without pauses', [0, 0]],
  ] as const;
  for (const [title, pauses] of ways) {
    const compare = await compareTwo(target, title);
    const times: Times = new Map((Object.keys(DOES) as Deed[]).map((deed) => [deed, []]));
    const until = performance.now() + DURATION;
    let memory = 0;
    const watch = setInterval(() => {
      memory = Math.max(memory, residentMegabytes(target.serverPid));
    }, 250);
    const comparing = compare();
    await Promise.all(all.slice(0, people).map((person) => live(target, person, seen, pauses, until, times)));
    const took = await comparing;
    clearInterval(watch);
    tell(`${people} ${title}, 90 s, two long comparisons`, times, memory, took, alone);
  }
}
