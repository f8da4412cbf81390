/** A form with files, as a stream: none of them is held in memory. */
import { createReadStream, statSync } from 'node:fs';
import { SENT_BEFORE } from './parts.ts';

export interface Outgoing {
  readonly path: string;
  readonly name: string;
  readonly plan: Readonly<Record<string, unknown>>;
  /** It was sent in parts: this stands for it. */
  readonly sentBefore?: SentBefore;
}

export interface SentBefore {
  readonly upload: string;
  readonly deltaOf?: string;
  /** Of the whole file, lower-case hexadecimal. */
  readonly sha256?: string;
}

/** A file changed while it was being read. */
export class Changed extends Error {}

/** The bytes of a form; `onChanged` is told where a file changes meanwhile. */
export async function* form(
  boundary: string,
  fields: Readonly<Record<string, string>>,
  files: readonly Outgoing[],
  onChanged: (error: Changed) => void,
): AsyncGenerator<Buffer> {
  for (const [name, value] of Object.entries(fields))
    yield Buffer.from(`--${boundary}\r\ncontent-disposition: form-data; name="${name}"\r\n\r\n${value}\r\n`);
  for (const { path, name, sentBefore } of files) {
    const head = `--${boundary}\r\ncontent-disposition: form-data; name="file"; filename="${name.replace(/["\r\n]/g, (c) => encodeURIComponent(c))}"\r\n`;
    if (sentBefore) {
      yield Buffer.from(`${head}content-type: ${SENT_BEFORE}\r\n\r\n${JSON.stringify(sentBefore)}\r\n`);
      continue;
    }
    const before = statSync(path);
    yield Buffer.from(`${head}content-type: application/octet-stream\r\n\r\n`);
    let sent = 0;
    for await (const piece of createReadStream(path, { highWaterMark: 256 * 1024 })) {
      sent += (piece as Buffer).length;
      yield piece as Buffer;
    }
    const after = statSync(path);
    if (sent !== before.size || after.size !== before.size || after.mtimeMs !== before.mtimeMs) {
      const error = new Changed(
        `${path} changed while it was being sent. Nothing was checked in; try again once it is saved.`,
      );
      onChanged(error);
      throw error;
    }
    yield Buffer.from('\r\n');
  }
  yield Buffer.from(`--${boundary}--\r\n`);
}
