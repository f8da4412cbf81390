/**
 * The parts of Ovrel's API that a desk needs. Answers are checked for their shape: a proxy's error page is no answer.
 */
import { createHash } from 'node:crypto';
import { createWriteStream, existsSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { Readable } from 'node:stream';
import { setTimeout } from 'node:timers/promises';
import { z } from 'zod';
import { differenceOf, madeOf, mayDiffer, type Difference } from './difference.ts';
import { hashOf } from './folder.ts';
import { form, type Changed, type Outgoing } from './form.ts';
import { IN_PARTS } from '@ovrel/core';
import { Notes, sendInParts, type Ask, type Place } from './parts.ts';

const byline = z.object({ id: z.string(), name: z.string() });
const deskFiles = z.array(
  z.object({
    fileId: z.string(),
    path: z.string(),
    newest: z.object({ id: z.string(), number: z.number(), sha256: z.string(), size: z.number() }),
    holder: byline.nullable(),
  }),
);
const folders = z.array(z.object({ id: z.string(), parentId: z.string().nullable(), name: z.string() }));
const versions = z.array(z.object({ id: z.string(), number: z.number(), sha256: z.string(), size: z.number() }));
const knownVersions = z.array(
  z.object({ fileId: z.string(), versionId: z.string(), number: z.number(), sha256: z.string() }),
);
const session = z.object({ person: byline });
const lines = z.object({
  lines: z.array(z.object({ id: z.string(), name: z.string(), position: z.number() })),
});
const made = z.object({ id: z.string(), number: z.number(), line: z.string() });
const proposal = z.object({
  id: z.string(),
  changed: z.boolean(),
  clashes: z.array(
    z.object({
      key: z.string(),
      kind: z.string(),
      decided: z.boolean(),
      ours: z.object({ part: z.object({ kind: z.string(), name: z.string() }) }).nullable(),
      theirs: z.object({ part: z.object({ kind: z.string(), name: z.string() }) }).nullable(),
    }),
  ),
});
const erased = z.object({ sentence: z.string() });
const savedAnswer = z.object({
  made: z.boolean(),
  aside: z.boolean(),
  version: z.object({ id: z.string(), number: z.number() }),
  sentence: z.string(),
});
const setResult = z.object({
  sentence: z.string(),
  same: z.array(z.string()),
  hints: z.array(z.string()),
  set: z
    .object({
      files: z.array(
        z.object({
          fileId: z.string(),
          name: z.string(),
          version: z.number().nullable(),
          versionId: z.string().nullable(),
        }),
      ),
    })
    .nullable(),
});

export type Proposal = z.infer<typeof proposal>;
export type Known = z.infer<typeof knownVersions>[number];
export type DeskFile = z.infer<typeof deskFiles>[number];
export type SetResult = z.infer<typeof setResult>;

/** A refusal, with the server's own sentence and its code; empty where it is none of the server's. */
export class Refused extends Error {
  readonly code: string;

  constructor(sentence: string, code = '') {
    super(sentence);
    this.code = code;
  }
}

/** Codes that say that a delta will not do. */
const SEND_WHOLE: ReadonlySet<string> = new Set(['wrong-delta', 'too-large-for-deltas', 'not-found']);

/** Nobody answered, or somebody who cannot just now: it is worth trying again. */
export class Away extends Refused {}

/** The connection broke before an answer was there: what was asked for may have been done. */
class Unanswered extends Away {}

/** Failures of a connection that stood: what was sent may have arrived. */
const LOST = new Set([
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'UND_ERR_SOCKET',
  'UND_ERR_HEADERS_TIMEOUT',
  'UND_ERR_BODY_TIMEOUT',
]);

/** Waits before a check-in whose answer was lost is sent again, in milliseconds. */
const SENT_AGAIN_AFTER = [500, 2000, 5000];

/** A file for a form, with the version that it was made of, where there is one. */
interface Placed extends Outgoing {
  readonly place: Place;
  readonly base?: string | undefined;
}

/** Where a file of a set is to stand. */
const placeOf = (
  projectId: string,
  { fileId, base, folderId }: Outgoing['plan'],
): { readonly place: Place; readonly base: string | undefined } =>
  typeof fileId === 'string'
    ? { place: { fileId }, base: typeof base === 'string' ? base : undefined }
    : { place: { projectId, folderId: typeof folderId === 'string' ? folderId : null }, base: undefined };

/** A version to be had, and what its bytes are. */
interface Wanted {
  readonly id: string;
  readonly sha256: string;
}

export class Api {
  private readonly address: string;
  private readonly token: string;
  private readonly notes: Notes;

  /** `notes`: where it is kept what is on its way, so that another run goes on with it. */
  constructor(address: string, token: string, notes?: string) {
    this.address = address.replace(/\/+$/, '');
    this.token = token;
    this.notes = new Notes(notes);
  }

  private async ask<S extends z.ZodType>(schema: S, path: string, init: RequestInit = {}): Promise<z.output<S>> {
    const response = await fetch(`${this.address}/api/v1${path}`, {
      ...init,
      headers: {
        ...(init.headers as Record<string, string>),
        authorization: `Bearer ${this.token}`,
        'user-agent': 'ovrel desk',
      },
    }).catch((error: unknown) => {
      throw this.unreached(error);
    });
    const text = await response.text().catch((error: unknown) => {
      throw this.unreached(error);
    });
    if (!response.ok) throw refusal(response.status, text);
    const answer = schema.safeParse(text ? JSON.parse(text) : undefined);
    if (!answer.success) throw new Refused(`${this.address} gave an answer that is not Ovrel's. Is the address right?`);
    return answer.data;
  }

  private sendJson<S extends z.ZodType>(schema: S, method: string, path: string, body: unknown): Promise<z.output<S>> {
    const headers = { 'content-type': 'application/json' };
    return this.ask(schema, path, { method, body: JSON.stringify(body), headers });
  }

  async linesOf(fileId: string): Promise<z.infer<typeof lines>['lines']> {
    return (await this.ask(lines, `/files/${fileId}/rail`)).lines;
  }

  /** The newest version of a line. */
  async newestOf(fileId: string, lineId: string): Promise<z.infer<typeof versions>[number] | undefined> {
    return (await this.ask(versions, `/files/${fileId}/versions?line=${lineId}`)).at(-1);
  }

  startLine(versionId: string, name: string, reason: string): Promise<z.infer<typeof made>> {
    return this.sendJson(made, 'POST', `/versions/${versionId}/lines`, { name, reason });
  }

  branchFile(versionId: string, name: string, reason: string): Promise<unknown> {
    return this.sendJson(z.object({ fileId: z.string() }), 'POST', `/versions/${versionId}/files`, { name, reason });
  }

  proposeJoin(fileId: string, from: string): Promise<Proposal> {
    return this.sendJson(proposal, 'POST', `/files/${fileId}/proposals`, { asked: { kind: 'join', from } });
  }

  decide(proposalId: string, decisions: Readonly<Record<string, string>>): Promise<Proposal> {
    return this.sendJson(proposal, 'PATCH', `/proposals/${proposalId}`, { decisions });
  }

  land(proposalId: string, note: string): Promise<z.infer<typeof made>> {
    return this.sendJson(made, 'POST', `/proposals/${proposalId}/land`, { note });
  }

  async eraseBack(versionId: string, name: string, reason: string): Promise<string> {
    const done = await this.sendJson(erased, 'POST', `/versions/${versionId}/erase-back`, { name, reason });
    return done.sentence;
  }

  private unreached(error: unknown): Refused {
    const { cause } = error as { cause?: { code?: string } };
    if (!LOST.has(cause?.code ?? ''))
      return new Away(`${this.address} cannot be reached. Check the connection and the address; nothing was changed.`);
    return new Unanswered(
      `The connection to ${this.address} broke before an answer came. Look whether it was done, then try again.`,
    );
  }

  private send = <S extends z.ZodType>(schema: S, method: string, path: string, body: unknown): Promise<z.output<S>> =>
    this.ask(schema, path, { method, body: JSON.stringify(body), headers: { 'content-type': 'application/json' } });

  me = (): Promise<z.infer<typeof session>> => this.ask(session, '/session');
  projects = (): Promise<{ id: string; name: string }[]> => this.ask(z.array(byline), '/projects');
  files = (project: string): Promise<DeskFile[]> => this.ask(deskFiles, `/projects/${project}/desk`);
  folders = (project: string): Promise<z.infer<typeof folders>> => this.ask(folders, `/projects/${project}/folders`);
  checkOut = (files: readonly string[], desk: string, from?: string): Promise<unknown> =>
    this.send(z.unknown(), 'POST', '/checkouts', { files, desk, ...(from ? { from } : {}) });
  /** Which versions of their files contents are; those that are none are left out. */
  known = (project: string, files: readonly { fileId: string; sha256: string }[]): Promise<Known[]> =>
    this.send(knownVersions, 'POST', `/projects/${project}/known`, { files });
  giveUp = (files: readonly string[]): Promise<{ givenUp: number }> =>
    this.send(z.object({ givenUp: z.number() }), 'DELETE', '/checkouts', { files });

  async version(file: string, number: number): Promise<z.infer<typeof versions>[number]> {
    const [found] = await this.ask(versions, `/files/${file}/versions?from=${number}&to=${number}`);
    if (!found) throw new Refused(`There is no v${number} of this file.`);
    return found;
  }

  /**
   * Brings a version's bytes to a path: complete and checked, or not at all. `from`: the version that lies there, of
   * which only what is missing is fetched.
   */
  async fetchTo(path: string, version: Wanted, from?: Wanted): Promise<void> {
    if (from && (await this.fetchDifference(path, version, from))) return;
    const response = await fetch(`${this.address}/api/v1/versions/${version.id}/content`, {
      headers: { authorization: `Bearer ${this.token}` },
    }).catch(() => {
      throw new Refused(`${this.address} cannot be reached. Nothing was changed.`);
    });
    if (!response.ok || !response.body) throw refusal(response.status, await response.text());
    const part = `${path}.ovrel-part`;
    const hash = createHash('sha256');
    try {
      const out = createWriteStream(part);
      for await (const piece of response.body) {
        hash.update(piece);
        if (!out.write(piece))
          await new Promise<void>((ready) => {
            out.once('drain', () => ready());
          });
      }
      await new Promise<void>((done, failed) => {
        out.on('error', failed);
        out.end(() => done());
      });
      if (hash.digest('hex') !== version.sha256)
        throw new Refused(`What arrived for ${path} is not what the server has. Nothing was replaced; try again.`);
      renameSync(part, path);
    } catch (error) {
      rmSync(part, { force: true });
      throw error instanceof Refused
        ? error
        : new Refused(`${path} could not be written: ${(error as Error).message}. Is it open in another program?`);
    }
  }

  /** Tells whether that did: all of it is fetched otherwise. */
  private async fetchDifference(path: string, version: Wanted, from: Wanted): Promise<boolean> {
    if (!existsSync(path) || !mayDiffer(path)) return false;
    const here = readFileSync(path);
    if (createHash('sha256').update(here).digest('hex') !== from.sha256) return false;
    const response = await fetch(`${this.address}/api/v1/versions/${version.id}/difference?from=${from.id}`, {
      headers: { authorization: `Bearer ${this.token}` },
    }).catch(() => undefined);
    if (!response?.ok) return false;
    const packed = await response.arrayBuffer().catch(() => undefined);
    const whole = packed && madeOf(here, new Uint8Array(packed), version.sha256);
    if (!whole) return false;
    const part = `${path}.ovrel-part`;
    try {
      writeFileSync(part, whole);
      renameSync(part, path);
      return true;
    } catch (error) {
      rmSync(part, { force: true });
      throw new Refused(`${path} could not be written: ${(error as Error).message}. Is it open in another program?`);
    }
  }

  /**
   * Checks in files as one set. A file that changes while it is sent stops all of it. Where the answer is lost, the set
   * is sent again: it lands once all the same.
   */
  async checkIn(project: string, note: string, files: readonly Outgoing[]): Promise<SetResult> {
    const fields = { key: crypto.randomUUID(), note, plan: JSON.stringify(files.map((f) => f.plan)) };
    for (const pause of SENT_AGAIN_AFTER) {
      try {
        return await this.sendSet(project, fields, files);
      } catch (error) {
        if (!(error instanceof Unanswered)) throw error;
        await setTimeout(pause);
      }
    }
    return this.sendSet(project, fields, files);
  }

  /**
   * A save, which is made once however often it is sent with its key. Of a large file only what is new beside its base
   * is sent; where that does not do, all of it.
   */
  save(
    fileId: string,
    { key, base, kind }: { readonly key: string; readonly base: string | undefined; readonly kind: string },
    file: Pick<Outgoing, 'path' | 'name'>,
  ): Promise<z.infer<typeof savedAnswer>> {
    const fields = { key, kind, ...(base === undefined ? {} : { base }) };
    return this.sendFiles(savedAnswer, `/files/${fileId}/saves`, fields, [
      { ...file, plan: {}, base, place: { fileId } },
    ]);
  }

  /** Old copies as histories, all or none; gives what was made, in a sentence. */
  async takeIn(project: string, plan: string, note: string, files: readonly Outgoing[]): Promise<string> {
    const fields = { key: crypto.randomUUID(), plan, note };
    const placed = files.map((file) => ({ ...file, place: { projectId: project, folderId: null } }));
    return (await this.sendFiles(erased, `/projects/${project}/intake`, fields, placed)).sentence;
  }

  private sendSet(
    project: string,
    fields: Readonly<Record<string, string>>,
    files: readonly Outgoing[],
  ): Promise<SetResult> {
    const placed = files.map((file) => ({ ...file, ...placeOf(project, file.plan) }));
    return this.sendFiles(setResult, `/projects/${project}/sets`, fields, placed);
  }

  /** Sends what is new of large files, or large files in parts; all of them as they are where that does not do. */
  private async sendFiles<S extends z.ZodType>(
    schema: S,
    path: string,
    fields: Readonly<Record<string, string>>,
    files: readonly Placed[],
  ): Promise<z.output<S>> {
    for (const may of [{ differ: true }, { differ: false }]) {
      const prepared: Outgoing[] = [];
      for (const file of files) prepared.push(await this.prepared(file, may.differ));
      try {
        const answer = await this.sendForm(schema, path, fields, prepared);
        for (const { sentBefore } of prepared) if (sentBefore) this.notes.forget(sentBefore.upload);
        return answer;
      } catch (error) {
        const isDelta = prepared.some(({ sentBefore }) => sentBefore?.deltaOf !== undefined);
        if (!(error instanceof Refused) || !isDelta || !SEND_WHOLE.has(error.code)) throw error;
      }
    }
    throw new Refused('The server takes none of these files.');
  }

  private async prepared({ path, name, plan, place, base }: Placed, mayDelta: boolean): Promise<Outgoing> {
    const file = { path, name, plan };
    const difference = base === undefined || !mayDelta ? undefined : await this.differenceFrom(base, path);
    if (base !== undefined && difference) {
      try {
        const upload = await this.inParts(difference.path, place, `${base} to ${difference.sha256}`);
        return { ...file, sentBefore: { upload, deltaOf: base, sha256: difference.sha256 } };
      } finally {
        difference.end();
      }
    }
    if (statSync(path).size <= IN_PARTS) return file;
    const sha256 = await hashOf(path);
    return { ...file, sentBefore: { upload: await this.inParts(path, place, sha256), sha256 } };
  }

  private inParts(path: string, place: Place, what: string): Promise<string> {
    const isPassing = (error: unknown): boolean => error instanceof Away;
    const ask: Ask = (schema, to, init) => this.ask(schema, to, init);
    return sendInParts(path, { place, what }, { ask, notes: this.notes, isPassing });
  }

  /** Undefined where the file is better sent as it is. */
  private async differenceFrom(versionId: string, path: string): Promise<Difference | undefined> {
    if (!mayDiffer(path)) return undefined;
    const response = await fetch(`${this.address}/api/v1/versions/${versionId}/signature`, {
      headers: { authorization: `Bearer ${this.token}` },
    }).catch((error: unknown) => {
      throw this.unreached(error);
    });
    if (!response.ok) return undefined;
    return differenceOf(path, new Uint8Array(await response.arrayBuffer()));
  }

  private async sendForm<S extends z.ZodType>(
    schema: S,
    path: string,
    fields: Readonly<Record<string, string>>,
    files: readonly Outgoing[],
  ): Promise<z.output<S>> {
    const boundary = `ovrel-${crypto.randomUUID()}`;
    // How a failed request tells of its body's failure is not relied upon.
    let changed: Changed | undefined;
    const body = Readable.toWeb(
      Readable.from(
        form(boundary, fields, files, (error) => {
          changed = error;
        }),
      ),
    );
    return await this.ask(schema, path, {
      method: 'POST',
      body: body as unknown as BodyInit,
      duplex: 'half',
      headers: { 'content-type': `multipart/form-data; boundary=${boundary}` },
    } as RequestInit).catch((error: unknown) => {
      throw changed ?? error;
    });
  }
}

/** Answers of a server that is about to go or to come, or of a proxy without one behind it. */
const isPassing = (status: number): boolean => status === 429 || status >= 500;

function refusal(status: number, text: string): Refused {
  const Kind = isPassing(status) ? Away : Refused;
  try {
    const { detail, type = '' } = JSON.parse(text) as { detail: string; type?: string };
    return new Kind(detail, type.replace('/problems/', ''));
  } catch {
    return new Kind(`The server answered with ${status} and no sentence. Is the address right?`);
  }
}
