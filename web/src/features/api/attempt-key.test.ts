import { KeyOfSent, newKey } from './attempt-key.ts';

test('keys are random ids of the form that the server takes', () => {
  const keys = Array.from({ length: 100 }, newKey);
  for (const key of keys) expect(key).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  expect(new Set(keys).size).toBe(100);
});

test('what is sent again has its key; another file, note or answer has a new one', () => {
  const keys = new KeyOfSent();
  const [plan, other] = [new File(['a'], 'plan.txt'), new File(['a'], 'plan.txt')];
  const first = keys.for(plan, 'Railing');
  expect(keys.for(plan, 'Railing')).toBe(first);
  const noted = keys.for(plan, 'Railing moved');
  expect(noted).not.toBe(first);
  expect(keys.for(other, 'Railing moved')).not.toBe(noted);
});
