/** A larger drawing in the manner of a services plan: rooms, runs of pipes, hundreds of equal valves and marks. */
import { DxfWriter, type Point } from '@ovrel/core';
import { randomFrom } from './scripts.ts';

export function plantDrawing(entities: number, seed = 5): string {
  const random = randomFrom(seed);
  const d = new DxfWriter({ units: 4 });
  const side = Math.round(Math.sqrt(entities) * 900);
  d.lineType('CENTRE', [400, -100, 100, -100]);
  for (const [name, colour] of [
    ['walls', '#3B3B3B'],
    ['pipes', '#1F4E79'],
    ['valves', '#9A3B3B'],
    ['marks', '#17212B'],
    ['ducts', '#5B6B2E'],
  ] as const)
    d.layer(name, { colour });
  d.block('valve', [0, 0], (b) => b.line([-60, -40], [60, 40]).line([-60, 40], [60, -40]).circle([0, 0], 70));
  d.block('hanger', [0, 0], (b) =>
    b
      .polyline(
        [
          [-30, 0],
          [30, 0],
          [30, 90],
          [-30, 90],
        ],
        true,
      )
      .circle([0, 45], 12),
  );
  const at = (): Point => [random(side * 10) / 10, random(side * 10) / 10];
  for (let n = 0; n < entities; n++) {
    const [x, y] = at();
    switch (n % 10) {
      case 0:
      case 1:
        d.line([x, y], [x + (random(2) ? 300 + random(4000) : 0), y + (random(2) ? 200 + random(3000) : 50)], {
          layer: 'pipes',
        });
        break;
      case 2:
        d.polyline(
          [
            [x, y],
            [x + 2000 + random(3000), y],
            [x + 2000 + random(3000), y + 1500 + random(2500)],
            [x, y + 1500 + random(2500)],
          ],
          true,
          { layer: 'walls' },
        );
        break;
      case 3:
      case 4:
        d.placement('valve', [x, y], { layer: 'valves', turn: 90 * random(4) });
        break;
      case 5:
        d.circle([x, y], 20 + random(5) * 15, { layer: 'pipes' });
        break;
      case 6:
        d.text([x, y], 120, `${['P', 'V', 'D'][random(3)]}${random(entities)}`, { layer: 'marks' });
        break;
      case 7:
        d.placement('hanger', [x, y], { layer: 'pipes' });
        break;
      case 8:
        d.arc([x, y], 200 + random(8) * 50, random(360), random(360), { layer: 'ducts' });
        break;
      default:
        d.polyline(
          Array.from({ length: 3 + random(6) }, (_, k): Point => [x + k * 350 + random(100), y + random(900)]),
          false,
          { layer: 'ducts' },
        );
    }
  }
  return d.finish();
}
