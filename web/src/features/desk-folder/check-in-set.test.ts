import type { Folder } from '../../contract/api.ts';
import type { DeskFile } from '../../contract/desk.ts';
import { baseName, folderIdOf } from './paths.ts';
import type { Row } from './useDesk.ts';
import { basesOf } from './useSetCheckIn.ts';

const folders: readonly Folder[] = [
  { id: 'plans', projectId: 'landing', name: 'Plans', parentId: null },
  { id: 'details', projectId: 'landing', name: 'Details', parentId: 'plans' },
  { id: 'other', projectId: 'landing', name: 'Details', parentId: null },
];

test('a new file lands in the folder of its path, whatever the case of its letters', () => {
  expect(folderIdOf(folders, 'plans/details/railing.svg')).toBe('details');
  expect(folderIdOf(folders, 'Details/railing.svg')).toBe('other');
  expect(folderIdOf(folders, 'railing.svg')).toBeNull();
  expect(baseName('plans/details/railing.svg')).toBe('railing.svg');
});

test('a folder that the project does not have is named', () => {
  expect(() => folderIdOf(folders, 'plans/steel/railing.svg')).toThrow('Make the folder “steel” there first');
});

const inProject = (fileId: string, path: string, sha256: string): DeskFile =>
  ({ fileId, path, newest: { id: `${fileId}-new`, number: 4, sha256 } }) as DeskFile;

const here = (path: string, sha256: string): Row =>
  ({ path, here: { path, size: 1, sha256 }, file: undefined, base: undefined }) as unknown as Row;

test('after a check-in the desk has what the project has, by file or, if it is new, by path', () => {
  const plan = inProject('f1', 'plan.svg', 'one');
  const steel = inProject('f2', 'steel.csv', 'two');
  const sent = [
    { row: here('plan renamed.svg', 'one'), as: plan },
    { row: here('steel.csv', 'two'), as: undefined },
  ];
  expect(basesOf(sent, [plan, steel])).toEqual({
    'plan renamed.svg': { fileId: 'f1', versionId: 'f1-new', number: 4, sha256: 'one' },
    'steel.csv': { fileId: 'f2', versionId: 'f2-new', number: 4, sha256: 'two' },
  });
});

test('what was changed here or there while it was sent counts as changed', () => {
  const plan = inProject('f1', 'plan.svg', 'newer');
  expect(basesOf([{ row: here('plan.svg', 'one'), as: plan }], [plan])).toEqual({});
  expect(basesOf([{ row: here('gone.svg', 'one'), as: undefined }], [plan])).toEqual({});
});
