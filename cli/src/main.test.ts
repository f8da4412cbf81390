import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { comparisonSchema, designJsonSchema } from '@ovrel/core/contract';

const root = join(__dirname, '../..');
const folder = mkdtempSync(join(tmpdir(), 'ovrel-cli-'));
afterAll(() => rmSync(folder, { recursive: true }));

const ovrel = (...argv: string[]) => spawnSync(join(root, 'node_modules/.bin/ovrel'), argv, { encoding: 'utf8', cwd: folder });
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

test('2 with a sentence for what cannot be read, and still the lesser comparison', () => {
  const whole = put('whole.svg', '<svg>\n<g>\n<rect width="1" height="1"/>\n</g>\n</svg>'), cut = put('cut.svg', '<svg>\n<g>\n<rect wid');
  expect(ovrel('read', cut)).toMatchObject({ status: 2, stderr: expect.stringMatching(/stops in the middle of <rect>/) as string });
  const run = ovrel('compare', whole, cut, '--json');
  expect(run.status).toBe(2);
  expect(comparisonSchema.parse(JSON.parse(run.stdout)).level).toBe('text');
  expect(ovrel('read', 'nowhere.svg')).toMatchObject({ status: 2, stderr: expect.stringMatching(/There is no file/) as string });
  expect(ovrel('read', put('not.svg', 'words'))).toMatchObject({ status: 2, stderr: expect.stringMatching(/The name says SVG drawing/) as string });
  expect(ovrel('compare', whole).status).toBe(2);
  expect(ovrel('compare', '--frob', whole, whole).status).toBe(2);
});
