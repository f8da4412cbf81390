import { sayAgo, sayMoment, saySize } from './words.ts';

test('dates and sizes in plain words', () => {
  expect(sayMoment('2027-03-14T09:40:00Z')).toBe('14 Mar 2027, 09:40');
  const now = Date.parse('2027-03-14T10:00:00Z');
  expect(sayAgo('2027-03-14T09:59:40Z', now)).toBe('just now');
  expect(sayAgo('2027-03-14T08:59:00Z', now)).toBe('1 hour ago');
  expect(sayAgo('2027-03-01T10:00:00Z', now)).toBe('1 week ago');
  expect([1, 999, 7333, 43_777, 2_500_000].map(saySize)).toEqual(['1 byte', '999 bytes', '7.3 kB', '44 kB', '2.5 MB']);
});
