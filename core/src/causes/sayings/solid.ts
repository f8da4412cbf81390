/** What is said of models. Lengths are in the unit that is given, volumes in its cube. */
import { plural } from '../../text/plural.ts';
import {
  quoted,
  quotedList,
  sayAxis,
  sayLine,
  sayNumber,
  sayShift,
  sayThose,
  withUnit,
  type Shift,
  type Those,
} from '../phrases.ts';

type Place = readonly [number, number, number];

/** Material at one place. */
interface MaterialSaid {
  readonly verb: 'added' | 'removed';
  /** The part that it is of; empty where there is but one. */
  readonly part: string;
  readonly size: Place;
  readonly volume: number;
  readonly at: Place;
  readonly deviation: number;
  readonly bore?: {
    readonly diameter: number;
    readonly depth: number;
    readonly axis: Place;
    readonly isHole: boolean;
  };
  readonly unit: string;
}

const sayPlace = (place: Place): string => `(${place.map(sayNumber).join(', ')})`;
const sayLength = (length: number): string => sayNumber(Number(length.toPrecision(4)));
const sayVolume = (volume: number, unit: string): string =>
  withUnit(sayLength(volume), unit ? `${unit}³` : 'cubic units');
const sayOf = (part: string): string => (part ? ` on ${quoted(part)}` : '');

const holes = { removed: 'Hole made', added: 'Hole filled' } as const;
const pins = { removed: 'Round body taken away', added: 'Round body added' } as const;

function sayMaterial({ verb, part, size, volume, at, deviation, bore, unit }: MaterialSaid): string {
  const where = `at ${sayPlace(at)}${sayOf(part)}`;
  if (bore) {
    const what = bore.isHole ? holes[verb] : pins[verb];
    const length = `${withUnit(sayLength(bore.depth), unit)} ${bore.isHole ? 'deep' : 'long'}`;
    const how = `⌀ ${withUnit(sayLength(bore.diameter), unit)}, ${length}, along ${sayLine(bore.axis)}`;
    return `${what}: ${how}, ${sayVolume(volume, unit)}, ${where}`;
  }
  const extent = withUnit(size.map(sayLength).join(' × '), unit);
  const thickness = Math.min(...size) > 2 * deviation ? `, up to ${withUnit(sayLength(deviation), unit)} thick` : '';
  return `Material ${verb}: ${extent}, ${sayVolume(volume, unit)}${thickness}, ${where}`;
}

interface WholeSaid {
  /** Ways in which it fits as well, because it is symmetrical. */
  readonly ways?: number;
  readonly scale?: number;
  readonly turn?: number;
  readonly axis?: Place;
  /** The axis along which it is the other way round. */
  readonly mirrored?: Place;
  readonly shift?: Shift;
}

function sayWhole({ scale, turn, axis, mirrored, shift }: WholeSaid): string {
  const said: string[] = [];
  if (mirrored) said.push(`mirrored along ${sayLine(mirrored)}`);
  if (scale !== undefined) said.push(`scaled by ${sayNumber(scale)}`);
  if (turn !== undefined) said.push(`turned by ${sayNumber(turn)}° about ${sayAxis(axis ?? [0, 0, 1])}`);
  if (shift) said.push(`moved by ${sayShift(shift)}`);
  const last = said.pop() ?? '';
  return said.length > 0 ? `${said.join(', ')} and ${last}` : last;
}

export const solidSayings = {
  material: sayMaterial,
  'more-material': ({
    places,
    added,
    removed,
    part,
    unit,
  }: {
    places: number;
    added: number;
    removed: number;
    part: string;
    unit: string;
  }) => {
    const said = [
      ...(added > 0 ? [`${sayVolume(added, unit)} added`] : []),
      ...(removed > 0 ? [`${sayVolume(removed, unit)} removed`] : []),
    ];
    return `${plural(places, 'smaller place')}${sayOf(part)}${said.length > 0 ? `: ${said.join(', ')}` : ''}`;
  },
  'surface-moved': ({
    way,
    size,
    at,
    deviation,
    part,
    unit,
  }: {
    way: 'outwards' | 'inwards';
    size: Place;
    at: Place;
    deviation: number;
    part: string;
    unit: string;
  }) =>
    `Surface moved ${way} by up to ${withUnit(sayLength(deviation), unit)}: ${withUnit(size.map(sayLength).join(' × '), unit)}, at ${sayPlace(at)}${sayOf(part)}`,
  'surface-made-anew': ({
    from,
    to,
    deviation,
    part,
    unit,
  }: {
    from: number;
    to: number;
    deviation: number;
    part: string;
    unit: string;
  }) => {
    const how = to < from ? 'simplified' : 'made anew';
    return `Surface ${how} within ${withUnit(sayLength(deviation), unit)}${sayOf(part)}: ${from.toLocaleString('en')} → ${to.toLocaleString('en')} triangles`;
  },
  'triangulated-anew': ({ parts, from, to }: { parts: number; from: number; to: number }) =>
    `${parts > 1 ? `${plural(parts, 'surface')} only` : 'Only'} triangulated anew, ${from === to ? '' : `${from.toLocaleString('en')} → `}${to.toLocaleString('en')} triangles`,
  'inside-out': ({ parts }: { parts: number }) =>
    `${parts > 1 ? plural(parts, 'surface') : 'The surface'} turned over: what looked outwards looks inwards`,
  'model-placed': ({ ways = 1, ...how }: WholeSaid) =>
    `Everything ${sayWhole(how)}${ways > 1 ? ' (or another way: it is symmetrical)' : ''}`,
  'storey-raised': ({
    storeys,
    by,
    parts,
    unit,
  }: {
    storeys: readonly string[];
    by: number;
    parts: number;
    unit: string;
  }) =>
    `${storeys.length === 1 ? 'Storey' : 'Storeys'} ${quotedList(storeys)} ${by > 0 ? 'raised' : 'lowered'} by ${withUnit(sayLength(Math.abs(by)), unit)} with ${plural(parts, 'element')}`,
  classified: ({ who, from }: { who: Those; from: string }) =>
    `${sayThose(who)} ${who.count === 1 ? 'was' : 'were'} classified as ${from} before`,
  'identities-new': ({ parts, only, program }: { parts: number; only: boolean; program: string }) =>
    `Exported anew${program ? ` by ${program}` : ''}: all ${plural(parts, 'identity', 'identities')} are new${only ? ', nothing else' : ''}`,
  'model-units': ({ from, to }: { from: string; to: string }) => `Units ${from} → ${to}, with every number converted`,
  'y-up': ({ to }: { to: 'y' | 'z' }) => `Written with ${to} up; the model stands as it stood`,
};
