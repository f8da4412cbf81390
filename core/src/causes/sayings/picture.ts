/** What causes of pictures say: of the whole, of places, of pages and words. */
import { plural } from '../../text/plural.ts';
import { quoted, sayDecimal, saySize } from '../phrases.ts';

type Size = readonly [width: number, height: number];

/** Pixels at one side of a picture. */
interface AtSide {
  readonly side: 'left' | 'top' | 'right' | 'bottom';
  readonly pixels: number;
}

const saySides = (sides: readonly AtSide[]): string =>
  sides.map(({ side, pixels }) => `${sayDecimal(pixels, 0)} px at the ${side}`).join(', ');

const mirrors = { across: 'left to right', down: 'top to bottom', diagonal: '' } as const;

const percent = (share: number): string => `${sayDecimal(share * 100, 1)} %`;

const sayResolution = (dpi: number | undefined): string =>
  dpi === undefined ? 'not given' : `${sayDecimal(dpi, 1)} dpi`;

/** What was done to a place. */
export type Nature =
  | 'added'
  | 'removed'
  | 'moved'
  | 'recoloured'
  | 'brighter'
  | 'darker'
  | 'blurred'
  | 'sharpened'
  | 'repainted'
  | 'redrawn';

const natureWords: Readonly<Record<Nature, string>> = {
  added: 'Something added',
  removed: 'Something removed',
  moved: 'Moved',
  recoloured: 'Recoloured',
  brighter: 'Made brighter',
  darker: 'Made darker',
  blurred: 'Blurred',
  sharpened: 'Sharpened',
  repainted: 'Painted over',
  redrawn: 'Drawn differently',
};

/** Where on a picture something is. */
export const EVERYWHERE = 'nearly everywhere';

const sayWhere = (where: string): string => {
  if (where === EVERYWHERE) return where;
  return where === 'middle' ? 'in the middle' : `at the ${where}`;
};

interface PlacesSaid {
  readonly nature: Nature;
  readonly count: number;
  /** Of one place. */
  readonly size?: Size;
  readonly by?: readonly [number, number];
  /** Empty where they are in more than two places. */
  readonly where: readonly string[];
  /** Pixels of a scan, not of the page. */
  readonly scan?: boolean;
}

/** What was done to places, without sizes and where. */
export const sayNature = (nature: Nature): string => natureWords[nature];

export const sayResampling = ({ across, down }: { across: number; down?: number }): string =>
  down === undefined
    ? `Resampled to ${percent(across)}`
    : `Stretched to ${percent(across)} across and ${percent(down)} down`;

function sayPlaces({ nature, count, size, by, where, scan }: PlacesSaid): string {
  const pixels = scan ? 'px of its scan' : 'px';
  const shift = by ? ` by (${by.map((v) => sayDecimal(v, 6)).join(', ')}) ${size ? 'px' : pixels}` : '';
  const what = size ? `${saySize(size)} ${pixels}` : plural(count, 'place');
  const places = where.length ? ` ${where.map(sayWhere).join(' and ')}` : '';
  return `${natureWords[nature]}${shift}: ${what}${places}`;
}

export const pictureSayings = {
  'size-differs': ({ from, to }: { from: Size; to: Size }) => `Size ${saySize(from)} → ${saySize(to)} px`,
  mirrored: ({ way }: { way: keyof typeof mirrors }) => `Mirrored ${mirrors[way] || 'across a diagonal'}`,
  turned: ({ degrees }: { degrees: number }) =>
    `Turned by ${sayDecimal(Math.abs(degrees))}° ${degrees > 0 ? 'clockwise' : 'anticlockwise'}`,
  resampled: ({ from, to, ...how }: { across: number; down?: number; from: Size; to: Size }) =>
    `${sayResampling(how)}: ${saySize(from)} → ${saySize(to)} px`,
  cropped: ({ from, to, sides }: { from: Size; to: Size; sides: readonly AtSide[] }) =>
    `Cropped: ${saySize(from)} → ${saySize(to)} px, ${saySides(sides)} cut off`,
  'canvas-grown': ({ from, to, sides }: { from: Size; to: Size; sides: readonly AtSide[] }) =>
    `Canvas made larger: ${saySize(from)} → ${saySize(to)} px, ${saySides(sides)} added`,
  shifted: ({ dx, dy }: { dx: number; dy: number }) => `Shifted by (${sayDecimal(dx)}, ${sayDecimal(dy)}) px`,

  lightness: ({ by }: { by: number }) =>
    `${by > 0 ? 'Brighter' : 'Darker'} overall, lightness ${by > 0 ? '+' : '−'}${sayDecimal(Math.abs(by), 1)} of 100`,
  contrast: ({ by }: { by: number }) => `${by > 1 ? 'More' : 'Less'} contrast, × ${sayDecimal(by)}`,
  'colours-removed': () => 'Colours removed',
  saturation: ({ by }: { by: number }) => `Colours ${by > 1 ? 'stronger' : 'weaker'}, × ${sayDecimal(by)}`,
  hue: ({ degrees }: { degrees: number }) => `Hues turned by ${sayDecimal(degrees, 0)}°`,
  tinted: ({ towards }: { towards: 'red' | 'green' | 'yellow' | 'blue' }) => `Tinted: more ${towards}`,
  'blurred-overall': ({ edges }: { edges: number }) => `Blurred overall: edges × ${sayDecimal(edges)}`,
  'sharpened-overall': ({ edges }: { edges: number }) => `Sharpened overall: edges × ${sayDecimal(edges)}`,
  'grain-added': ({ size }: { size: number }) => `Grain added all over: ± ${sayDecimal(size, 1)} of 255`,

  recompressed: ({ as, noise }: { /** Absent where it was compressed before. */ as?: string; noise: number }) =>
    `Compressed ${as === undefined ? 'anew' : `as ${as}`}: fine noise of ${sayDecimal(noise, 1)} (CIEDE2000) on most of it`,
  recomputed: ({ noise }: { noise: number }) =>
    `Computed anew: fine noise of ${sayDecimal(noise, 1)} (CIEDE2000) on most of it`,
  resolution: ({ from, to }: { from?: number | undefined; to?: number | undefined }) =>
    `Resolution ${sayResolution(from)} → ${sayResolution(to)}`,
  profile: ({ from, to }: { from: string; to: string }) => `Colour profile ${from} → ${to}`,
  depth: ({ from, to }: { from: number; to: number }) => `${from} → ${to} bits a channel`,
  'colour-model': ({ from, to }: { from: string; to: string }) => `Colour model ${from} → ${to}`,
  transparency: ({ possible }: { possible: boolean }) =>
    possible ? 'May be transparent now' : 'Not transparent any more',
  palette: ({ limited }: { limited: boolean }) =>
    limited ? 'Colours limited to a palette' : 'Colours no longer limited to a palette',
  'saved-as': ({ from, to }: { from: string; to: string }) => `Saved as ${to}, before as ${from}`,

  places: sayPlaces,

  'frame-came': ({ name, verb }: { name: string; verb: 'added' | 'removed' }) => `${name} ${verb}`,
  'frame-moved': ({ name, was }: { name: string; was: string }) => `${name} moved: it was ${was}`,

  'line-differs': ({ from, to }: { from: string; to: string }) => `Text ${quoted(from)} now ${quoted(to)}`,
  'words-only-in': ({
    side,
    lines,
    examples,
  }: {
    side: 'A' | 'B';
    lines: number;
    /** All of them where they are few. */
    examples: readonly string[];
  }) => {
    const said = examples.map(quoted).join(', ');
    return `Words only in ${side}: ${lines > examples.length ? `${plural(lines, 'line')}, ${said} …` : said}`;
  },
};
