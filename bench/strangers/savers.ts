/** Programs that save a drawing again without meaning to change what is drawn. */
import { Resvg } from '@resvg/resvg-js';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { hasCommand, moduleOf } from './fetch.ts';

/** Throws where the program cannot take the file. */
type Save = (bytes: Buffer) => Buffer;

const PATIENCE = 60_000;
const MOST = 1 << 28;

/** Runs a program that reads standard input and writes standard output. */
const through =
  (command: string, args: readonly string[]): Save =>
  (input) =>
    execFileSync(command, args, { input, maxBuffer: MOST, timeout: PATIENCE, stdio: ['pipe', 'pipe', 'ignore'] });

/** Runs a program that reads one file and writes another. */
const byFiles =
  (command: string, args: (from: string, to: string) => readonly string[], ending: string): Save =>
  (input) => {
    const folder = mkdtempSync(join(tmpdir(), 'ovrel-strangers-'));
    const [from, to] = [join(folder, `from.${ending}`), join(folder, `to.${ending}`)];
    try {
      writeFileSync(from, input);
      execFileSync(command, args(from, to), { timeout: PATIENCE, stdio: 'ignore' });
      return readFileSync(to);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  };

/** Those of the table whose program is there. */
function available(
  table: Readonly<Record<string, readonly [command: string, debian: string, save: Save]>>,
): Record<string, Save> {
  return Object.fromEntries(
    Object.entries(table).flatMap(([name, [command, debian, save]]) =>
      hasCommand(command, debian) ? [[name, save]] : [],
    ),
  );
}

interface Optimiser {
  readonly optimize: (text: string, options: object) => { readonly data: string };
}

const PYTHON = '/usr/bin/python3';
const CAIRO = 'import sys, cairosvg; cairosvg.svg2svg(bytestring=sys.stdin.buffer.read(), write_to=sys.stdout.buffer)';

export function svgSavers(): Record<string, Save> {
  const { optimize } = moduleOf('svgo', '4.0.0') as Optimiser;
  const optimised =
    (options: object): Save =>
    (bytes) =>
      Buffer.from(optimize(bytes.toString(), options).data);
  return {
    svgo: optimised({}),
    'svgo in several passes': optimised({ multipass: true }),
    'svgo, shapes as paths, styles as attributes': optimised({
      plugins: [
        'preset-default',
        { name: 'convertShapeToPath', params: { convertArcs: true } },
        'convertStyleToAttrs',
        'reusePaths',
      ],
    }),
    'svgo, only numbers': optimised({ plugins: ['cleanupNumericValues', 'convertPathData', 'convertTransform'] }),
    usvg: (bytes) => Buffer.from(new Resvg(bytes.toString()).toString()),
    ...available({
      scour: ['scour', 'scour', through('scour', ['-q'])],
      'scour, all on': [
        'scour',
        'scour',
        through('scour', ['-q', '--enable-viewboxing', '--enable-id-stripping', '--shorten-ids', '--indent=none']),
      ],
      'scour, groups made': ['scour', 'scour', through('scour', ['-q', '--create-groups', '--set-precision=7'])],
      minify: ['minify', 'minify', through('minify', ['--type=svg'])],
      xmllint: ['xmllint', 'libxml2-utils', through('xmllint', ['--format', '-'])],
      'rsvg-convert': ['rsvg-convert', 'librsvg2-bin', through('rsvg-convert', ['-f', 'svg'])],
      cairosvg: [PYTHON, 'python3-cairosvg', through(PYTHON, ['-c', CAIRO])],
    }),
  };
}

interface Documents {
  readonly PDFDocument: { load: (bytes: Buffer) => Promise<{ save: () => Promise<Uint8Array> }> };
}

/** Throws where the program cannot take the file. */
export type SaveLater = (bytes: Buffer) => Buffer | Promise<Buffer>;

export function pdfSavers(): Record<string, SaveLater> {
  const { PDFDocument } = createRequire(import.meta.url)('pdf-lib') as Documents;
  return {
    'pdf-lib': async (bytes) => Buffer.from(await (await PDFDocument.load(bytes)).save()),
    ...available({
      qpdf: ['qpdf', 'qpdf', byFiles('qpdf', (from, to) => [from, to], 'pdf')],
      'qpdf, streams open': [
        'qpdf',
        'qpdf',
        byFiles('qpdf', (from, to) => ['--qdf', '--object-streams=disable', from, to], 'pdf'),
      ],
      mutool: ['mutool', 'mupdf-tools', byFiles('mutool', (from, to) => ['clean', '-gggz', from, to], 'pdf')],
      'mutool, contents cleaned': [
        'mutool',
        'mupdf-tools',
        byFiles('mutool', (from, to) => ['clean', '-s', from, to], 'pdf'),
      ],
      ghostscript: [
        'gs',
        'ghostscript',
        byFiles(
          'gs',
          (from, to) => ['-q', '-dNOPAUSE', '-dBATCH', '-sDEVICE=pdfwrite', `-sOutputFile=${to}`, from],
          'pdf',
        ),
      ],
      pdftocairo: ['pdftocairo', 'poppler-utils', byFiles('pdftocairo', (from, to) => ['-pdf', from, to], 'pdf')],
    }),
  };
}
