import { readObj } from '../../formats/obj/read.ts';
import { defaultLimits } from '../../model/limits.ts';
import type { Solid } from '../../model/solid.ts';
import { provenanceNotes } from './provenance.ts';

/** A round plate, whose corners lie wherever they fall. */
function plate(digits: number, at: readonly [number, number] = [0, 0]): Solid {
  const corners = Array.from({ length: 40 }, (_, k) => {
    const angle = (2 * Math.PI * k) / 40;
    return `v ${(at[0] + 20 * Math.cos(angle)).toFixed(digits)} ${(at[1] + 20 * Math.sin(angle)).toFixed(digits)} 1`;
  });
  const face = `f ${corners.map((_, k) => k + 1).join(' ')}`;
  return readObj(new TextEncoder().encode([...corners, face, ''].join('\n')), defaultLimits);
}

const by = (solid: Solid, program: string, formatVersion?: string): Solid => ({
  ...solid,
  origin: { ...solid.origin, program, ...(formatVersion === undefined ? {} : { formatVersion }) },
});

test('nothing is to be known of two that were written alike', () => {
  expect(provenanceNotes(plate(4), plate(4))).toEqual([]);
  expect(provenanceNotes(by(plate(4), 'Slipway 9.2'), by(plate(4), 'Slipway 9.2'))).toEqual([]);
});

test('a newer release of the same program is told, an older one and another program are not', () => {
  const was = by(plate(4), 'Slipway Modeller 2.9');
  expect(provenanceNotes(was, by(plate(4), 'Slipway Modeller 2.10'))).toEqual([
    'B was written by a newer release of Slipway Modeller (2.10, A by 2.9): who has the older one may not be able to open it.',
  ]);
  expect(provenanceNotes(by(plate(4), 'Slipway Modeller 2.10'), was)).toEqual([]);
  expect(provenanceNotes(was, by(plate(4), 'Boathouse 7'))).toEqual([]);
});

test.each([
  ['IFC2X3', 'IFC4', 1],
  ['IFC4', 'IFC4X3_ADD2', 1],
  ['IFC4', 'IFC2X3', 0],
  ['CONFIG_CONTROL_DESIGN', 'AP242_MANAGED_MODEL_BASED_3D_ENGINEERING_MIM_LF', 1],
  ['AUTOMOTIVE_DESIGN', 'CONFIG_CONTROL_DESIGN', 0],
])('%s, then %s: %s newer release', (was, is, count) => {
  const notes = provenanceNotes(by(plate(4), 'Slipway', was), by(plate(4), 'Slipway', is));
  expect(notes).toHaveLength(count);
  for (const note of notes) expect(note).toContain(is);
});

test('coordinates that were rounded more coarsely are told, finer ones are not', () => {
  expect(provenanceNotes(plate(4), plate(1))).toEqual([
    'Coordinates of B are rounded to 0.1 units, those of A to 0.0001 units or finer.',
  ]);
  expect(provenanceNotes(plate(1), plate(4))).toEqual([]);
});

test('what was moved far away is told once, with its distance', () => {
  expect(provenanceNotes(plate(4), plate(4, [300_000, 400_000]))).toEqual([
    'B stands 500,000 units from its origin: programs that keep short numbers show it blurred.',
  ]);
  expect(provenanceNotes(plate(4, [300_000, 400_000]), plate(4, [300_000, 400_000]))).toEqual([]);
});
