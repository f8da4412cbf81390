import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { DxfWriter } from '@ovrel/core';
import { comparisonSchema, designJsonSchema } from '@ovrel/core/contract';
import { makeOra, type NewLayer } from '@ovrel/core/node';

const root = join(__dirname, '../..');
const folder = mkdtempSync(join(tmpdir(), 'ovrel-cli-'));
afterAll(() => rmSync(folder, { recursive: true }));

const ovrel = (...argv: string[]) =>
  spawnSync(join(root, 'node_modules/.bin/ovrel'), argv, { encoding: 'utf8', cwd: folder });
const put = (name: string, content: string): string => {
  writeFileSync(join(folder, name), content);
  return name;
};
const lighthouse = join(root, 'demo/real/lighthouse.svg');

test('read: JSON after its schema, exit code 0', () => {
  const run = ovrel('read', lighthouse, '--json');
  expect(run.status).toBe(0);
  expect(designJsonSchema.parse(JSON.parse(run.stdout)).counts.parts).toBe(134);
});

test('compare: 0 for the same, 1 for different, with JSON after its schema', () => {
  expect(ovrel('compare', lighthouse, lighthouse).status).toBe(0);
  const edited = put('edited.svg', readFileSync(lighthouse, 'latin1').replace(/fill:#[0-9a-f]{6}/, 'fill:#12ab34'));
  const run = ovrel('compare', lighthouse, edited, '--json');
  expect(run.status).toBe(1);
  const result = comparisonSchema.parse(JSON.parse(run.stdout));
  expect(result.changes).toHaveLength(1);
  expect(result.changes[0]!.what[0]).toMatchObject({ aspect: 'style', to: '#12ab34' });
  expect(ovrel('compare', lighthouse, edited).stdout).toMatch(/1 unchanged|changed 1/);
});

test('compare: causes first, in text and JSON; a tolerance can be given', () => {
  const drawing = (x: number): string =>
    new DxfWriter()
      .line([0, 0], [900, 0])
      .line([x, 100], [400 + x, 100])
      .line([x, 200], [300 + x, 250])
      .circle([200, 300], 50)
      .finish();
  const a = put('a.dxf', drawing(0));
  const b = put('b.dxf', drawing(0.4));
  const run = ovrel('compare', a, b, '--json');
  expect(run.status).toBe(1);
  const { causes, changes } = comparisonSchema.parse(JSON.parse(run.stdout));
  expect(causes).toMatchObject([
    {
      id: 'k1',
      kind: 'motion',
      code: 'moved',
      sentence: '2 lines moved together by (0.4, 0) mm',
      weight: expect.any(Number) as number,
      parts: 2,
      changes: changes.map((c) => c.id),
    },
  ]);
  expect(ovrel('compare', a, b).stdout).toMatch(/causes:\n {2}2 lines moved together by \(0.4, 0\) mm {2}\[2\]/);
  expect(ovrel('compare', a, b, '--tolerance=1').status).toBe(0);
  expect(ovrel('compare', a, b, '--tolerance=none')).toMatchObject({
    status: 2,
    stderr: expect.stringMatching(/a distance above 0/) as string,
  });
});

test('layered pictures: their layers, and what was done to them', async () => {
  const png = new Uint8Array(
    await sharp({ create: { width: 20, height: 10, channels: 4, background: '#204060' } })
      .png()
      .toBuffer(),
  );
  const layers = (hidden: boolean): NewLayer[] => [
    { name: 'lettering', group: -1, hidden, opacity: 0.6, blend: 'multiply', pixels: { png, x: 2, y: 2 } },
    { name: 'paper', group: -1, hidden: false, opacity: 1, blend: 'normal', pixels: { png, x: 0, y: 0 } },
  ];
  for (const hidden of [false, true])
    writeFileSync(join(folder, `${hidden ? 'b' : 'a'}.ora`), await makeOra(24, 14, 150, layers(hidden)));
  expect(ovrel('read', 'b.ora').stdout).toContain(
    'layers, from the top:\n  lettering, hidden, 60 %, multiply\n  paper\n',
  );
  expect(ovrel('compare', 'a.ora', 'b.ora')).toMatchObject({
    status: 1,
    stdout: expect.stringContaining('Layer “lettering” hidden') as string,
  });
});

test('2 with a sentence for what cannot be read, and still the lesser comparison', () => {
  const whole = put('whole.svg', '<svg>\n<g>\n<rect width="1" height="1"/>\n</g>\n</svg>');
  const cut = put('cut.svg', '<svg>\n<g>\n<rect wid');
  expect(ovrel('read', cut)).toMatchObject({
    status: 2,
    stderr: expect.stringMatching(/stops in the middle of <rect>/) as string,
  });
  const run = ovrel('compare', whole, cut, '--json');
  expect(run.status).toBe(2);
  expect(comparisonSchema.parse(JSON.parse(run.stdout)).level).toBe('text');
  expect(ovrel('read', 'nowhere.svg')).toMatchObject({
    status: 2,
    stderr: expect.stringMatching(/There is no file/) as string,
  });
  expect(ovrel('read', put('not.svg', 'words'))).toMatchObject({
    status: 2,
    stderr: expect.stringMatching(/The name says SVG drawing/) as string,
  });
  expect(ovrel('compare', whole).status).toBe(2);
  expect(ovrel('compare', '--frob', whole, whole).status).toBe(2);
});

describe('as commands are used', () => {
  const piped = (input: Buffer | string, ...argv: string[]) =>
    spawnSync(join(root, 'node_modules/.bin/ovrel'), argv, { encoding: 'utf8', cwd: folder, input });

  test('one of the files may be standard input', () => {
    const run = piped(readFileSync(lighthouse), 'compare', '-', lighthouse);
    expect(run.stdout).toContain('standard input → lighthouse.svg: No change');
    expect(run.status).toBe(0);
    expect(piped('', 'compare', '-', '-').stderr).toContain('Only one of the two files');
  });

  test.each([
    [['--version'], 0, /^ovrel \d+\.\d+\.\d+/],
    [['-h'], 0, /^ovrel: look into drawings/],
    [['compare', '--tolerance', '3', '--', lighthouse, lighthouse], 0, /No change/],
  ])('%j', (argv, status, expected) => {
    const run = ovrel(...argv);
    expect(run.stdout).toMatch(expected);
    expect(run.status).toBe(status);
  });

  test.each([
    [['compare', 'not-there.svg', lighthouse], 'There is no file not-there.svg.'],
    [['compare', lighthouse, lighthouse, '--tolerance', 'x'], 'The tolerance is a distance above 0'],
    [['compare', lighthouse, lighthouse, '--tolerance'], 'argument missing'],
    [['read', '-x', lighthouse], 'does not know the option -x'],
  ])('%j is refused with a sentence', (argv, sentence) => {
    const run = ovrel(...argv);
    expect(run.stderr).toContain(sentence);
    expect(run.status).toBe(2);
  });

  test('whoever reads may stop reading', () => {
    const run = spawnSync(
      'sh',
      ['-c', `${join(root, 'node_modules/.bin/ovrel')} read "${lighthouse}" --json | head -1`],
      {
        encoding: 'utf8',
      },
    );
    expect(run).toMatchObject({ stdout: '{\n', stderr: '', status: 0 });
  });
});

describe('putting files together', () => {
  const landing = (deck: number, sign: string, extra = ''): string =>
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 99 99"><rect id="deck" x="${deck}" width="9" height="9"/>
<text id="sign" x="5" y="50">${sign}</text>${extra}</svg>`;
  const written = (): string => readFileSync(join(folder, 'out.svg'), 'utf8');

  test('join: both sides in one file; a clash is listed and ends with 1', () => {
    const base = put('base.svg', landing(0, 'Quay'));
    const ours = put('ours.svg', landing(5, 'Quay'));
    const theirs = put('theirs.svg', landing(0, 'Old quay'));
    expect(ovrel('join', base, ours, theirs, '-o', 'out.svg').status).toBe(0);
    expect(written()).toBe(landing(5, 'Old quay'));
    const other = put('other.svg', landing(7, 'Old quay'));
    const run = ovrel('join', base, ours, other, '-o', 'out.svg', '--json');
    expect(run.status).toBe(1);
    const { clashes } = JSON.parse(run.stdout) as { clashes: unknown[] };
    expect(clashes).toMatchObject([
      { kind: 'both-changed', key: 'both-changed b1', ours: { part: { key: 'deck' } }, theirs: {} },
    ]);
    expect(written()).toBe(landing(5, 'Old quay'));
    expect(ovrel('join', base, ours, other, '-o', 'out.svg', '--prefer', 'theirs').status).toBe(1);
    expect(written()).toBe(landing(7, 'Old quay'));
  });

  test('takeback: one cause of an old comparison, later work stays', () => {
    const a = put('a.svg', landing(0, 'Quay'));
    const b = put('b.svg', landing(5, 'Old quay'));
    const newest = put('newest.svg', landing(5, 'Old quay', '<circle r="3" cx="80" cy="80"/>'));
    const { causes } = comparisonSchema.parse(JSON.parse(ovrel('compare', a, b, '--json').stdout));
    const moved = causes.find((cause) => cause.kind === 'motion');
    expect(ovrel('takeback', a, b, newest, '-o', 'out.svg', '--cause', moved?.id ?? '').status).toBe(0);
    expect(written()).toBe(landing(0, 'Old quay', '<circle r="3" cx="80" cy="80"/>'));
    expect(ovrel('takeback', a, b, newest, '-o', 'out.svg', '--cause', 'k99')).toMatchObject({
      status: 2,
      stderr: expect.stringContaining('has no k99') as string,
    });
  });

  test('carry: a part by its key or a layer by its name; what is not there is said', () => {
    const from = put('from.svg', landing(0, 'Quay', '<circle id="bollard" r="3" cx="80" cy="80"/>'));
    const into = put('into.svg', landing(4, 'Quay'));
    expect(ovrel('carry', from, into, '-o', 'out.svg', '--part', 'bollard').status).toBe(0);
    expect(written()).toBe(landing(4, 'Quay', '<circle id="bollard" r="3" cx="80" cy="80"/>'));
    expect(ovrel('carry', from, into, '-o', 'out.svg', '--layer', 'Signs')).toMatchObject({
      status: 2,
      stderr: expect.stringContaining('no layer “Signs”') as string,
    });
    expect(ovrel('carry', from, into, '--part', 'bollard').stderr).toContain('-o');
  });
});
