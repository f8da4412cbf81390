/** Work on bytes that nobody vouches for, in a process of its own: it may hang, abort or ask for too much memory. */
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { Exhausted } from '../model/problem.ts';

/** How much else the machine has to do is another matter: so many times as long may pass. */
const PATIENCE = 12;
const MEMORY_MB = 1024;

export interface ChildWork {
  /** A file of this folder: it reads from standard input, and answers on standard output. */
  readonly script: string;
  readonly words: readonly string[];
  readonly input: Uint8Array;
  /** Milliseconds of computing that it may take. */
  readonly milliseconds: number;
  readonly patience?: number;
  /** What is said where the machine was too busy to say anything. */
  readonly busy: string;
}

/**
 * What the process answers; undefined where it ended without an answer, or took more computing than it may. Throws
 * Exhausted where the machine was too busy to say.
 */
export function answerOfChild({
  script,
  words,
  input,
  milliseconds,
  patience = PATIENCE,
  busy,
}: ChildWork): Promise<Buffer | undefined> {
  return new Promise((resolve, reject) => {
    const path = fileURLToPath(new URL(script, import.meta.url));
    const run = [process.execPath, `--max-old-space-size=${MEMORY_MB}`, path, ...words];
    const child = spawn(
      '/bin/sh',
      ['-c', 'ulimit -t "$0"; exec "$@"', String(Math.ceil(milliseconds / 1000)), ...run],
      {
        stdio: ['pipe', 'pipe', 'ignore'],
        env: { NODE_ENV: 'production', PATH: process.env['PATH'] ?? '' },
      },
    );
    let isLate = false;
    const timer = setTimeout(() => {
      isLate = true;
      child.kill('SIGKILL');
    }, patience * milliseconds);
    const pieces: Buffer[] = [];
    child.stdout.on('data', (piece: Buffer) => pieces.push(piece));
    child.stdin.on('error', () => undefined);
    child.on('error', () => resolve(undefined));
    child.on('close', (code) => {
      clearTimeout(timer);
      if (isLate) reject(new Exhausted(busy));
      else resolve(code === 0 && pieces.length > 0 ? Buffer.concat(pieces) : undefined);
    });
    child.stdin.end(input);
  });
}

/** All of standard input. */
export async function inputOfChild(): Promise<Buffer> {
  const pieces: Buffer[] = [];
  for await (const piece of process.stdin) pieces.push(piece as Buffer);
  return Buffer.concat(pieces);
}
