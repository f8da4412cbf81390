/** A real folder, with what lies in the way in real folders. */
import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { filesIn, inTheWay } from './folder.ts';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ovrel-folder-'));
  mkdirSync(join(folder, 'Details'));
  writeFileSync(join(folder, 'Details', 'fender.svg'), '<svg/>');
  writeFileSync(join(folder, 'plan'), 'a file');
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

test.each(['new.svg', 'Details/fender.svg', 'Details/new.svg', 'New/deep/er.svg'])('%s is written', (path) =>
  expect(inTheWay(folder, path)).toBeUndefined(),
);

test('what lies there that the desk does not know stays: folders, files, links, settings', () => {
  expect(inTheWay(folder, 'Details')).toBe('Details is a folder here');
  expect(inTheWay(folder, 'plan/x.svg')).toBe('plan is a file here, and a folder there');
  expect(inTheWay(folder, '.git/config')).toMatch(/begins with a dot/);
  symlinkSync(tmpdir(), join(folder, 'out'));
  symlinkSync(join(tmpdir(), 'nowhere'), join(folder, 'dangling.svg'));
  expect(inTheWay(folder, 'out/x.svg')).toBe('out is a link, which may lead out of the desk');
  expect(inTheWay(folder, 'dangling.svg')).toBe('dangling.svg is a link, which may lead out of the desk');
});

test('links and settings are not taken for files of the desk either', () => {
  mkdirSync(join(folder, '.git'));
  writeFileSync(join(folder, '.git', 'config'), '');
  writeFileSync(join(folder, '.env'), '');
  symlinkSync(tmpdir(), join(folder, 'out'));
  symlinkSync(join(folder, 'plan'), join(folder, 'link.svg'));
  expect([...filesIn(folder)]).toEqual(['Details/fender.svg', 'plan']);
});
