import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { config } from '../config.ts';

/** Formats that can be drawn small. */
export const drawable: ReadonlySet<string> = new Set([
  'svg',
  'dxf',
  'png',
  'jpeg',
  'gif',
  'webp',
  'avif',
  'tiff',
  'pdf',
  'ora',
  'psd',
]);

const TIME = 12_000;
/** One drawing process at a time: they are short, and the pages that want them wait anyway. */
let queue: Promise<unknown> = Promise.resolve();

/** A PNG whose longer side is `side` pixels; undefined where the content could not be drawn in time. */
export function drawThumbnail(bytes: Buffer, format: string, side: number): Promise<Buffer | undefined> {
  const next = queue.then(() => draw(bytes, format, side));
  queue = next.catch(() => undefined);
  return next;
}

function draw(bytes: Buffer, format: string, side: number): Promise<Buffer | undefined> {
  return new Promise((resolve) => {
    const script = join(/* turbopackIgnore: true */ config.root, 'core', 'src', 'node', 'draw-child.ts');
    const child = spawn(process.execPath, ['--max-old-space-size=1024', script, format, String(side)], {
      stdio: ['pipe', 'pipe', 'ignore'],
      env: { NODE_ENV: 'production', PATH: process.env['PATH'] ?? '' },
    });
    const timer = setTimeout(() => child.kill('SIGKILL'), TIME);
    const pieces: Buffer[] = [];
    child.stdout.on('data', (piece: Buffer) => pieces.push(piece));
    child.stdin.on('error', () => undefined);
    child.on('error', () => resolve(undefined));
    child.on('close', (code) => {
      clearTimeout(timer);
      resolve(code === 0 && pieces.length ? Buffer.concat(pieces) : undefined);
    });
    child.stdin.end(bytes);
  });
}
