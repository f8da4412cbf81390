import { finer } from './useDetail.ts';

const page = [0, 0, 1190, 842] as const;
const view = { width: 960, height: 560 };

test('seen whole, or up to about twice, the page as it is will do', () => {
  expect(finer(page, { x: 0, y: 0, scale: 0.7 }, view, 1)).toBeUndefined();
  expect(finer(page, { x: 0, y: 0, scale: 1.3 }, view, 2)).toBeUndefined();
});

test('closer, what is seen is drawn for every pixel of the screen, and nothing beyond the page', () => {
  const found = finer(page, { x: -1000, y: -4000, scale: 10 }, view, 2)!;
  // From 100 to 196 across, from 400 to 456 down.
  expect(found.box[0]).toBeLessThanOrEqual(100);
  expect(found.box[2]).toBeGreaterThanOrEqual(196);
  expect(found.box[1]).toBeLessThanOrEqual(400);
  expect(found.box[3]).toBeGreaterThanOrEqual(456);
  expect(found.side / (found.box[2] - found.box[0])).toBeGreaterThan(19);
  const corner = finer(page, { x: 200, y: 100, scale: 8 }, view, 1)!;
  expect(corner.box.slice(0, 2)).toEqual([0, 0]);
});

test('a view beside the page needs nothing, and small moves need nothing new', () => {
  expect(finer(page, { x: 5000, y: 0, scale: 10 }, view, 1)).toBeUndefined();
  expect(finer(page, { x: -1000, y: -4000, scale: 10 }, view, 1)).toEqual(
    finer(page, { x: -1001, y: -4001, scale: 10 }, view, 1),
  );
});
