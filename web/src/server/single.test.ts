import { forget, single } from './single.ts';

test('there is one of a name, made when it is asked for first; after it was forgotten another', () => {
  let made = 0;
  const next = (): number => {
    made += 1;
    return made;
  };
  expect([single('a', next), single('a', next), single('b', next)]).toEqual([1, 1, 2]);
  expect(forget('a')).toBe(1);
  expect(forget('a')).toBeUndefined();
  expect(single('a', next)).toBe(3);
});
