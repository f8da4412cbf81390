/** How a part is drawn, from its properties, whichever format they come from. */
import type { Design, Part, Scalar } from '../../../model/design.ts';

export interface Ink {
  /** #rrggbb; undefined for no line. */
  readonly stroke: string | undefined;
  /** #rrggbb; undefined for no fill. */
  readonly fill: string | undefined;
  /** Width of the pen on paper in millimetres; 0 where `width` counts. */
  readonly pen: number;
  /** Width in design units; 0 where `pen` counts. */
  readonly width: number;
  /** Lengths of dashes and gaps in design units; empty for a whole line. */
  readonly dashes: readonly number[];
  readonly opacity: number;
  readonly layer: string;
  readonly hidden: boolean;
}

const text = (value: Scalar | undefined): string | undefined => (typeof value === 'string' ? value : undefined);
const size = (value: Scalar | undefined): number => (typeof value === 'number' ? value : 0);
const whole: readonly number[] = [];

/** Plain colours as they are; paint servers as a middle grey; none as undefined. */
const plain = (value: Scalar | undefined): string | undefined => {
  const colour = text(value);
  if (!colour || colour === 'none') return undefined;
  if (/^#[0-9a-f]{6}/i.test(colour)) return colour.slice(0, 7);
  return '#8a939c';
};

/** `outer` is the ink of the placement around, for what is "by block" or "by layer" of it. */
export function inkOf(design: Design, part: Part, outer?: Ink): Ink {
  const { props } = part;
  if (props['colour'] === undefined) return vectorInk(part);
  const layer = part.category === '0' && outer ? outer.layer : part.category;
  const own = design.layers?.find((l) => l.name === layer)?.props;
  const inherit = (value: Scalar | undefined, name: string, placed: Scalar | undefined): Scalar | undefined => {
    if (value === 'by block') return placed;
    if (value === 'by layer') return own?.[name];
    return value;
  };
  const colour = text(inherit(props['colour'], 'colour', outer?.stroke ?? outer?.fill)) ?? '#000000';
  const type = text(inherit(props['line type'], 'line type', undefined));
  const pen = size(inherit(props['line weight'], 'line weight', outer?.pen)) || 0.25;
  const ofType = type ? scaled(design.lineTypes?.[type.toLowerCase()], size(props['line type scale']) || 1) : whole;
  const dashes = props['line type'] === 'by block' ? (outer?.dashes ?? whole) : ofType;
  const filled = props['filled'] === 'yes';
  const words = part.lettering !== undefined;
  const wide = size(props['width']);
  return {
    stroke: filled || words ? undefined : colour,
    fill: filled || words ? colour : undefined,
    pen: wide ? 0 : pen,
    width: wide,
    dashes,
    opacity: 1,
    layer,
    hidden:
      props['hidden'] === 'yes' ||
      (part.category === '0' && outer !== undefined && (own?.['off'] === 'yes' || own?.['frozen'] === 'yes')),
  };
}

const scaled = (dashes: readonly number[] | undefined, scale: number): readonly number[] => {
  if (!dashes) return whole;
  if (scale === 1) return dashes;
  return dashes.map((d) => d * scale);
};

function vectorInk({ props, category }: Part): Ink {
  const dashes =
    text(props['stroke-dasharray'])
      ?.split(' ')
      .map(Number)
      .filter((n) => n >= 0) ?? whole;
  return {
    stroke: plain(props['stroke']),
    fill: plain(props['fill']),
    pen: 0,
    width: size(props['stroke-width']),
    dashes: (dashes.length % 2 ? [...dashes, ...dashes] : dashes).map((d, i) => (i % 2 ? -d : d)),
    opacity: typeof props['opacity'] === 'number' ? props['opacity'] : 1,
    layer: category,
    hidden: props['hidden'] === 'yes',
  };
}
