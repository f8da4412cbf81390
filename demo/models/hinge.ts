/** The hinge at the upper end of the gangway: two leaves with knuckles, a pin, bolts and washers. Four versions. */
import { polygon, prism, ProductFile, rectangle, type Standing, type Written } from './product-file.ts';

/** 0 first; 1 a longer pin; 2 the moving leaf opened and two bolts more; 3 another bolt. */
export type HingeStage = 0 | 1 | 2 | 3;

const written: readonly Written[] = [
  { by: 'Anselm Dray', at: '2026-10-09T10:20:00', program: 'Slipway Solids 4' },
  { by: 'Anselm Dray', at: '2026-10-19T15:02:00', program: 'Slipway Solids 4' },
  { by: 'Ines Calloway', at: '2026-10-29T09:48:00', program: 'Slipway Solids 4' },
  { by: 'Ines Calloway', at: '2026-11-06T14:11:00', program: 'Slipway Solids 5' },
];

const angle = (18 * Math.PI) / 180;

export function hinge(stage: HingeStage): Uint8Array {
  const file = new ProductFile(written[stage] as Written);
  const leaf = file.part('Leaf 300 x 240', prism(rectangle(300, 240), 20));
  const knuckle = file.part('Knuckle 60', prism(polygon(38, 24), 60));
  const pin = file.part('Pin', prism(polygon(20, 24), stage >= 1 ? 460 : 420));
  const bolt =
    stage >= 3 ? file.part('Bolt M20', prism(polygon(15, 6), 70)) : file.part('Bolt M16', prism(polygon(12, 6), 60));
  const washer = file.part('Washer', prism(polygon(18, 24), 3));
  const columns = stage >= 2 ? [-90, 0, 90] : [-90, 90];
  const bolts = columns.flatMap((x) => [-70, 70].map((y) => ({ x, y })));
  const fixed = file.assembly('Fixed leaf', [
    [leaf, { at: [0, 0, 0] }],
    ...bolts.map(({ x, y }) => [bolt, { at: [x, y, -42] }] as const),
    ...bolts.map(({ x, y }) => [washer, { at: [x, y, 20] }] as const),
    ...[-120, 0, 120].map((x) => [knuckle, lying(x - 30, 158)] as const),
  ]);
  const moving = file.assembly('Moving leaf', [
    [leaf, { at: [0, 0, 0] }],
    ...[-60, 60].map((x) => [knuckle, lying(x - 30, -158)] as const),
  ]);
  const [c, s] = stage >= 2 ? [Math.cos(angle), Math.sin(angle)] : [1, 0];
  const opened: Standing = { at: [0, 158 + 158 * c, 158 * s], x: [1, 0, 0], z: [0, -s, c] };
  file.assembly('Gangway hinge', [
    [fixed, { at: [0, 0, 0] }],
    [moving, opened],
    [pin, { at: [-210, 158, 10], x: [0, 1, 0], z: [1, 0, 0] }],
  ]);
  return file.finish('gangway-hinge.step');
}

/** Along x. */
const lying = (x: number, y: number): Standing => ({ at: [x, y, 10], x: [0, 1, 0], z: [1, 0, 0] });
