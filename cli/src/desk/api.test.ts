import { createServer, type Server } from 'node:http';
import { appendFileSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Api } from './api.ts';

let folder: string;
let server: Server | undefined;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ovrel-api-'));
});
afterEach(() => {
  server?.closeAllConnections();
  server?.close();
  rmSync(folder, { recursive: true, force: true });
});

/** A server that takes everything; `onFirst` runs when the first bytes are there. */
const serve = (onFirst: () => void, answer: string, status = 201): Promise<string> =>
  new Promise((ready) => {
    server = createServer((request, response) => {
      request.once('data', onFirst);
      request.on('error', () => undefined);
      request.on('end', () => response.writeHead(status, { 'content-type': 'application/json' }).end(answer));
    }).listen(0, '127.0.0.1', () => ready(`http://127.0.0.1:${(server?.address() as AddressInfo).port}`));
  });
const send = async (address: string, path: string) =>
  new Api(address, 'token').checkIn('p', 'note', [{ path, name: 'levels.bin', plan: {} }]);

test('a file that changes while it is sent stops the check-in, and is named', async () => {
  const path = join(folder, 'levels.bin');
  writeFileSync(path, new Uint8Array(12 * 1024 * 1024));
  const address = await serve(() => appendFileSync(path, 'saved again'), '{}');
  await expect(send(address, path)).rejects.toThrow(
    `${path} changed while it was being sent. Nothing was checked in; try again once it is saved.`,
  );
});

test("a refusal comes with the server's own sentence, and what is no answer of Ovrel's is said to be none", async () => {
  const path = join(folder, 'levels.bin');
  writeFileSync(path, 'x');
  await expect(
    send(
      await serve(() => undefined, JSON.stringify({ detail: 'Here every check-in needs a note: say why.' }), 400),
      path,
    ),
  ).rejects.toThrow('Here every check-in needs a note: say why.');
  server?.close();
  await expect(send(await serve(() => undefined, '<h1>Welcome to the router</h1>', 502), path)).rejects.toThrow(
    'The server answered with 502 and no sentence. Is the address right?',
  );
  server?.close();
  await expect(send(await serve(() => undefined, '{"unexpected":true}'), path)).rejects.toThrow(
    "gave an answer that is not Ovrel's",
  );
  await expect(send('http://127.0.0.1:9', path)).rejects.toThrow(
    'cannot be reached. Check the connection and the address; nothing was changed.',
  );
});

test('a check-in whose answer is lost is sent again with the same key, until it is answered', async () => {
  const path = join(folder, 'levels.bin');
  writeFileSync(path, 'x');
  const bodies: string[] = [];
  const landed = { sentence: 'Set 3 was checked in: 1 file.', same: [], hints: [], set: { files: [] } };
  const address = await new Promise<string>((ready) => {
    server = createServer((request, response) => {
      let body = '';
      request.on('data', (piece: Buffer) => {
        body += piece.toString('latin1');
      });
      request.on('end', () => {
        bodies.push(body);
        if (bodies.length < 3) request.socket.destroy();
        else response.writeHead(201, { 'content-type': 'application/json' }).end(JSON.stringify(landed));
      });
    }).listen(0, '127.0.0.1', () => ready(`http://127.0.0.1:${(server?.address() as AddressInfo).port}`));
  });
  expect(await send(address, path)).toMatchObject({ sentence: landed.sentence });
  const keys = bodies.map((body) => /name="key"\r\n\r\n([0-9a-f-]{36})\r\n/.exec(body)?.[1]);
  expect(keys).toHaveLength(3);
  expect(new Set(keys).size).toBe(1);
  expect(keys[0]).toBeDefined();
});

test('a refusal is not sent again', async () => {
  const path = join(folder, 'levels.bin');
  writeFileSync(path, 'x');
  let asked = 0;
  const address = await serve(
    () => {
      asked += 1;
    },
    JSON.stringify({ detail: 'Closed.' }),
    403,
  );
  await expect(send(address, path)).rejects.toThrow('Closed.');
  expect(asked).toBe(1);
});
