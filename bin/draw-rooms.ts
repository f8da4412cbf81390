/**
 * Draws docs/rooms.svg: the rooms of the house and which of them know which. Run it when walls move:
 * node_modules/.bin/node bin/draw-rooms.ts
 */
import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './lib/prepare.mjs';

interface Room {
  readonly path: string;
  readonly says: string;
  readonly x: number;
  readonly y: number;
}

const WIDTH = 236;
const HEIGHT = 66;
const COLUMN = 260;
const ROW = 104;

const room = (path: string, says: string, column: number, row: number): Room => ({
  path,
  says,
  x: 24 + column * COLUMN,
  y: 40 + row * ROW,
});

const rooms: readonly Room[] = [
  room('web/src/features', 'interface, by area', 0, 0),
  room('web/src/app', 'pages and routes, thin', 1, 0),
  room('web/src/server', 'services, jobs, facts', 2, 0),
  room('cli/src', 'the command line', 3, 0),
  room('web/src/contract', 'schemas, rights', 1, 1),
  room('core/src/kinds', 'comparing, a folder a kind', 2, 1),
  room('core/src/node', 'engines that need Node', 3, 1),
  room('core/src/report', 'comparisons as files', 0, 2),
  room('core/src/causes', 'causes as data, said once', 1, 2),
  room('core/src/match', 'pairing of parts', 2, 2),
  room('core/src/formats', 'a folder a format', 3, 2),
  room('core/src/storage', 'chunks, deltas, containers', 0, 3),
  room('core/src/geometry', 'boxes, matrices, hashes', 1, 3),
  room('core/src/raster', 'pixels', 2, 3),
  room('core/src/model', 'the neutral models', 3, 3),
];

function sources(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) return sources(path);
    return /\.tsx?$/.test(name) && !/\.test\.tsx?$/.test(name) ? [path] : [];
  });
}

/** Rooms that a room's files import from, and how often. */
function known(from: Room): Map<Room, number> {
  const counts = new Map<Room, number>();
  for (const file of sources(join(root, from.path))) {
    for (const [, target = ''] of readFileSync(file, 'utf8').matchAll(/from '(\.[^']+|@ovrel\/core[^']*)'/g)) {
      const path = target.startsWith('.') ? join(file, '..', target).slice(root.length) : 'core/src/kinds/index.ts';
      const to = rooms.find((r) => path.startsWith(`${r.path}/`));
      if (to && to !== from) counts.set(to, (counts.get(to) ?? 0) + 1);
    }
  }
  return counts;
}

const middle = ({ x, y }: Room): readonly [number, number] => [x + WIDTH / 2, y + HEIGHT / 2];

function arrow(from: Room, to: Room, count: number): string {
  const [x0, y0] = middle(from);
  const [x1, y1] = middle(to);
  const length = Math.hypot(x1 - x0, y1 - y0);
  const reach = Math.min(
    Math.abs(WIDTH / 2 / ((x1 - x0) / length || 1e-9)),
    Math.abs(HEIGHT / 2 / ((y1 - y0) / length || 1e-9)),
  );
  const at = (distance: number): string =>
    `${(x0 + ((x1 - x0) * distance) / length).toFixed(1)} ${(y0 + ((y1 - y0) * distance) / length).toFixed(1)}`;
  const width = (0.6 + Math.log10(count)).toFixed(2);
  return `<path d="M${at(reach)} L${at(length - reach - 4)}" stroke-width="${width}" marker-end="url(#head)"><title>${from.path} → ${to.path}: ${count}</title></path>`;
}

const box = ({ path, says, x, y }: Room): string => {
  const files = sources(join(root, path)).length;
  return `<g><rect x="${x}" y="${y}" width="${WIDTH}" height="${HEIGHT}"/><text class="name" x="${x + 12}" y="${y + 27}">${path}</text><text x="${x + 12}" y="${y + 49}">${says}; files: ${files}</text></g>`;
};

const arrows = rooms.flatMap((from) => [...known(from)].map(([to, count]) => arrow(from, to, count)));
const width = 24 + 4 * COLUMN;
const height = 40 + 4 * ROW;
writeFileSync(
  join(root, 'docs', 'rooms.svg'),
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" font-family="sans-serif" font-size="13">
<style>rect{fill:#fff;stroke:#17202a}.name{font-weight:600}path{stroke:#6b2d5c;fill:none;opacity:.55}</style>
<defs><marker id="head" markerWidth="7" markerHeight="7" refX="6" refY="3.5" orient="auto" markerUnits="userSpaceOnUse"><path d="M0 0 L7 3.5 L0 7 z" style="fill:#6b2d5c;stroke:none"/></marker></defs>
<rect x="0" y="0" width="${width}" height="${height}" style="fill:#f4f6f7;stroke:none"/>
<text x="24" y="24">Who imports from whom; the wider, the more often</text>
${arrows.join('\n')}
${rooms.map(box).join('\n')}
</svg>
`,
);
