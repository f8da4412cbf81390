import { measured, sayMeasured } from './measure.ts';

test('distance, sum and area', () => {
  expect(
    measured([
      [0, 0],
      [3, 4],
    ]),
  ).toEqual({ last: 5, whole: 5, area: 0 });
  expect(
    measured([
      [0, 0],
      [10, 0],
      [10, 20],
      [0, 20],
    ]),
  ).toEqual({ last: 10, whole: 40, area: 200 });
  expect(measured([])).toEqual({ last: 0, whole: 0, area: 0 });
});

test('said in the drawing’s unit, or in millimetres where the page knows them', () => {
  expect(
    sayMeasured(
      [
        [0, 0],
        [1250.5, 0],
      ],
      'mm',
      1,
    ),
  ).toBe('1,250.5 mm');
  expect(
    sayMeasured(
      [
        [0, 0],
        [2, 0],
      ],
      'in',
      25.4,
    ),
  ).toBe('50.8 mm');
  expect(
    sayMeasured(
      [
        [0, 0],
        [0.25, 0],
      ],
      '',
      undefined,
    ),
  ).toBe('0.25');
  expect(
    sayMeasured(
      [
        [0, 0],
        [2000, 0],
        [2000, 1500],
      ],
      'mm',
      1,
    ),
  ).toBe('1,500 mm, in all 3,500 mm, area 1.5 m²');
});
