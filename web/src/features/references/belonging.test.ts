import type { DeskFile } from '../../contract/desk.ts';
import { sayLimits } from '../access/limits.ts';
import { sayBelonging, type Belonging } from './belonging.ts';
import { warning } from './References.tsx';

const file = (holder: DeskFile['holder']): DeskFile => ({
  fileId: 'f',
  path: 'Signs/stamp.svg',
  newest: { id: 'v', number: 2, sha256: 'x', size: 1 },
  holder,
});
const belonging = (more: Partial<Belonging>): Belonging => ({
  key: 'k',
  name: 'stamp.svg',
  side: 'needs',
  found: 'path',
  file: file(null),
  ...more,
});
const me = 'me';

test('what belongs to a file is said with who holds it', () => {
  expect(sayBelonging(belonging({}), me)).toEqual({ text: 'nobody holds it', warn: false });
  expect(sayBelonging(belonging({ file: file({ id: me, name: 'Ines' }) }), me)).toEqual({
    text: 'you hold it',
    warn: false,
  });
  expect(sayBelonging(belonging({ file: file({ id: 'other', name: 'Anselm Dray' }) }), me)).toEqual({
    text: 'Anselm Dray holds it',
    warn: false,
  });
});

test('what is broken or only perhaps meant is a warning; what lies in the web is none', () => {
  expect(sayBelonging(belonging({ file: undefined, found: 'missing' }), me)).toEqual({
    text: 'not found in this project',
    warn: true,
  });
  expect(sayBelonging(belonging({ found: 'name' }), me)).toEqual({
    text: 'not at its path; Signs/stamp.svg has the name; nobody holds it',
    warn: true,
  });
  expect(sayBelonging(belonging({ file: undefined, found: 'web' }), me)).toEqual({
    text: 'in the web, not kept here',
    warn: false,
  });
});

test('a reference of a version is said to be closed, missing or deleted, and not another thing', () => {
  const neighbour = {
    id: 'f',
    name: 'stamp.svg',
    path: 'Signs/stamp.svg',
    newest: 2,
    newestId: 'v',
    deleted: false,
    holder: null,
  };
  const need = { target: 'stamp.svg', kind: 'picture', then: null, says: '' };
  expect(warning({ ...need, found: 'closed', file: null })).toBe('closed to you');
  expect(warning({ ...need, found: 'missing', file: null })).toBe('not found in this project');
  expect(warning({ ...need, found: 'path', file: { ...neighbour, deleted: true } })).toBe(
    'deleted here; it can be brought back',
  );
  expect(warning({ ...need, found: 'name', file: neighbour })).toBe('not at its path; Signs/stamp.svg has the name');
  expect(warning({ ...need, found: 'path', file: neighbour })).toBeUndefined();
});

test('limits are said with their reason and whom to ask', () => {
  expect(
    sayLimits(
      {
        rights: ['see'],
        as: 'you are a reader',
        ask: [
          { id: '1', name: 'Tobias' },
          { id: '2', name: 'Marit' },
        ],
      },
      'You can look here',
    ),
  ).toBe('You can look here: you are a reader. Ask Tobias or Marit for more.');
  expect(sayLimits({ rights: [], as: 'you are a guest', ask: [] }, 'Closed')).toBe('Closed: you are a guest.');
});
