/** The season poster of the landing as a layered picture, stage by stage. Each layer is drawn by itself. */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { Resvg } from '@resvg/resvg-js';
import { makeOra, type NewLayer } from '@ovrel/core/node';

const WIDTH = 600;
const HEIGHT = 840;
const SCALE = 1.5;

interface Sheet {
  readonly name: string;
  readonly draw: string;
  readonly group?: 'lettering' | 'picture';
  readonly hidden?: boolean;
  readonly opacity?: number;
  readonly blend?: string;
  /** Offset in pixels of the finished picture. */
  readonly by?: readonly [number, number];
}

export interface Poster {
  /** From the top. */
  readonly sheets: readonly Sheet[];
  /** Layers of the group “picture” as one. */
  readonly flattened?: boolean;
}

const ink = '#17212b';
const words = (x: number, y: number, size: number, text: string, fill = ink, weight = 400): string =>
  `<text x="${x}" y="${y}" font-family="DejaVu Sans" font-size="${size}" font-weight="${weight}" fill="${fill}">${text}</text>`;

const title: Sheet = { name: 'title', group: 'lettering', draw: words(40, 112, 60, 'Quillmere', ink, 700) };
const season = (text: string): Sheet => ({ name: 'season line', group: 'lettering', draw: words(42, 162, 32, text) });
const times = (last: string): Sheet => ({
  name: 'sailing times',
  group: 'lettering',
  draw: ['Thornholm  7.10  9.40  13.20', 'Eel Point  8.05  11.15', `Back from Thornholm  ${last}`]
    .map((line, k) => words(44, 700 + 34 * k, 22, line, '#f4f6f7'))
    .join(''),
});
const mark = (dx = 0): Sheet => ({
  name: 'landing mark',
  group: 'lettering',
  draw: `<g transform="translate(508 736)"><rect width="56" height="56" rx="10" fill="#f4f6f7"/><path d="M12 34 h32 l-6 10 h-20 Z M26 12 v20 M26 14 l12 14 h-12 Z" fill="none" stroke="#6b2d5c" stroke-width="4"/></g>`,
  by: [dx, 0],
});
const ferry = (by: readonly [number, number] = [0, 0]): Sheet => ({
  name: 'ferry',
  group: 'picture',
  by,
  draw: '<path d="M150 560 L186 606 H414 L456 560 Z" fill="#f4f6f7"/><rect x="228" y="506" width="146" height="54" fill="#6b2d5c"/><path d="M240 516 h24 v18 h-24 Z M278 516 h24 v18 h-24 Z M316 516 h24 v18 h-24 Z" fill="#f3d9c4"/><rect x="290" y="470" width="10" height="36" fill="#17212b"/>',
});
const sun: Sheet = { name: 'sun', group: 'picture', draw: '<circle cx="430" cy="300" r="86" fill="#f7d488"/>' };
const gulls: Sheet = {
  name: 'gulls, first try',
  group: 'picture',
  hidden: true,
  draw: '<path d="M90 300 q14 -16 28 0 q14 -16 28 0 M170 250 q11 -13 22 0 q11 -13 22 0" fill="none" stroke="#17212b" stroke-width="4"/>',
};
const sea = (healed = false): Sheet => ({
  name: 'sea',
  group: 'picture',
  draw: `<path d="M0 560 C120 520 240 600 360 560 S540 530 600 560 V840 H0 Z" fill="#1f5a6b"/><path d="M0 610 C140 580 260 650 400 612 S560 600 600 616 V840 H0 Z" fill="#184955"/>${healed ? '' : '<ellipse cx="505" cy="640" rx="13" ry="9" fill="#c2552d"/><rect x="503" y="616" width="4" height="20" fill="#17212b"/>'}`,
});
const sky = (colour: string): Sheet => ({ name: 'sky', draw: `<rect width="600" height="640" fill="${colour}"/>` });
const paper: Sheet = { name: 'paper', draw: '<rect width="600" height="840" fill="#fbf7ef"/>' };
/** Bark of a birch: pale, with dark dashes. */
const texture = (opacity: number, hidden = false): Sheet => ({
  name: 'birch texture',
  opacity,
  hidden,
  blend: 'multiply',
  draw: `<rect width="600" height="840" fill="#efe7d8"/>${Array.from({ length: 90 }, (_, k) => `<rect x="${(k * 197) % 590}" y="${(k * 131) % 836}" width="${10 + ((k * 53) % 46)}" height="${2 + (k % 3)}" rx="1.5" fill="#8d7b66" fill-opacity="${0.35 + (k % 4) * 0.12}"/>`).join('')}`,
});

const first: readonly Sheet[] = [title, season('Spring timetable'), ferry(), sea(), sky('#cfe3ea'), paper];
const warmer: readonly Sheet[] = [title, season('Spring timetable'), ferry(), sun, sea(), sky('#f3d9c4'), paper];
const textured: readonly Sheet[] = [texture(0.6), ...warmer];
const moved: readonly Sheet[] = [
  texture(0.6),
  title,
  season('Spring timetable'),
  ferry([60, -18]),
  gulls,
  sun,
  sea(),
  sky('#f3d9c4'),
  paper,
];
const withTimes: readonly Sheet[] = [
  texture(0.6),
  title,
  season('Spring timetable'),
  times('17.45'),
  mark(),
  ferry([60, -18]),
  gulls,
  sun,
  sea(),
  sky('#f3d9c4'),
  paper,
];
const setting: readonly Sheet[] = [
  texture(0.35),
  title,
  season('Spring timetable'),
  times('17.45'),
  mark(),
  ferry([60, -18]),
  gulls,
  sea(),
  sun,
  sky('#f3d9c4'),
  paper,
];
const tidied: readonly Sheet[] = [
  texture(0.35, true),
  title,
  season('Spring timetable'),
  times('17.45'),
  mark(),
  ferry([60, -18]),
  sea(true),
  sun,
  sky('#f3d9c4'),
  paper,
];
const printed: readonly Sheet[] = [
  texture(0.35),
  title,
  season('Summer timetable'),
  times('18.30'),
  mark(2),
  ferry([60, -18]),
  sea(),
  sun,
  sky('#f3d9c4'),
  paper,
];

/** The stages of the poster, by what the history says of them. */
export const posters = {
  first: { sheets: first },
  warmer: { sheets: warmer },
  textured: { sheets: textured },
  moved: { sheets: moved },
  withTimes: { sheets: withTimes },
  setting: { sheets: setting },
  tidied: { sheets: tidied },
  flattened: { sheets: tidied, flattened: true },
  printed: { sheets: printed },
} satisfies Record<string, Poster>;

const fonts = join(
  dirname(createRequire(join(import.meta.dirname, '../../core/package.json')).resolve('dejavu-fonts-ttf/package.json')),
  'ttf',
);

const known = new Map<string, Uint8Array>();

/** Most layers are the same from stage to stage; each is drawn once. */
function drawn(inner: string, by: readonly [number, number] = [0, 0]): Uint8Array {
  const key = `${by.join(' ')} ${inner}`;
  const png = known.get(key) ?? rendered(inner, by);
  known.set(key, png);
  return png;
}

function rendered(inner: string, [dx, dy]: readonly [number, number]): Uint8Array {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${HEIGHT}" width="${WIDTH}" height="${HEIGHT}"><g transform="translate(${dx / SCALE} ${dy / SCALE})">${inner}</g></svg>`;
  return new Uint8Array(
    new Resvg(svg, {
      fitTo: { mode: 'width', value: WIDTH * SCALE },
      font: {
        loadSystemFonts: false,
        fontFiles: ['DejaVuSans', 'DejaVuSans-Bold'].map((f) => join(fonts, `${f}.ttf`)),
        defaultFontFamily: 'DejaVu Sans',
      },
    })
      .render()
      .asPng(),
  );
}

/** As OpenRaster. */
export async function layeredPoster({ sheets, flattened = false }: Poster): Promise<Uint8Array> {
  const layers: NewLayer[] = [];
  const groups = new Map<string, number>();
  for (const sheet of sheets) {
    if (flattened && sheet.group === 'picture') continue;
    if (sheet.group && !groups.has(sheet.group))
      groups.set(
        sheet.group,
        layers.push({ name: sheet.group, group: -1, hidden: false, opacity: 1, blend: 'normal' }) - 1,
      );
    layers.push({
      name: sheet.name,
      group: sheet.group ? (groups.get(sheet.group) ?? -1) : -1,
      hidden: sheet.hidden ?? false,
      opacity: sheet.opacity ?? 1,
      blend: sheet.blend ?? 'normal',
      pixels: { png: drawn(sheet.draw, sheet.by), x: 0, y: 0 },
    });
    if (flattened && sheet.name === 'landing mark')
      layers.push({
        name: 'picture',
        group: -1,
        hidden: false,
        opacity: 1,
        blend: 'normal',
        pixels: {
          png: drawn(
            sheets
              .filter((s) => s.group === 'picture' && !s.hidden)
              .reverse()
              .map(
                (s) =>
                  `<g transform="translate(${(s.by?.[0] ?? 0) / SCALE} ${(s.by?.[1] ?? 0) / SCALE})">${s.draw}</g>`,
              )
              .join(''),
          ),
          x: 0,
          y: 0,
        },
      });
  }
  return makeOra(WIDTH * SCALE, HEIGHT * SCALE, 150, layers);
}

/** As it is seen, as PNG: an export. */
export async function posterPrint(poster: Poster): Promise<Uint8Array> {
  const { modelOf, open } = await import('@ovrel/core');
  const { encodePng } = await import('@ovrel/core/node');
  const pictures = await modelOf(await open(await layeredPoster(poster), 'poster.ora'), 'picture');
  return encodePng((await pictures.page(0)).bitmap);
}
