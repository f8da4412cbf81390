import { asPage, onceAPage } from './once-a-page.ts';

function counted(): { look: () => Promise<number>; times: () => number } {
  let times = 0;
  return {
    look: async () => {
      times += 1;
      return times;
    },
    times: () => times,
  };
}

test('one page looks once, each page for itself', async () => {
  const { look, times } = counted();
  const make = async (): Promise<number[]> => [
    ...(await Promise.all([onceAPage('a', look), onceAPage('a', look)])),
    await onceAPage('a', look),
  ];
  expect(await asPage(make)).toEqual([1, 1, 1]);
  expect(await Promise.all([asPage(make), asPage(make)])).toEqual([
    [2, 2, 2],
    [3, 3, 3],
  ]);
  expect(times()).toBe(3);
});

test('what is asked otherwise is looked up otherwise', async () => {
  const { look } = counted();
  expect(await asPage(async () => [await onceAPage('a', look), await onceAPage('b', look)])).toEqual([1, 2]);
});

test('outside of a page nothing is kept', async () => {
  const { look } = counted();
  expect([await onceAPage('a', look), await onceAPage('a', look)]).toEqual([1, 2]);
});
