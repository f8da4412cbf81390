/** What causes of drawings say: a sentence a code, from its values. */
import { plural } from '../../text/plural.ts';
import {
  capital,
  pluralOf,
  quoted,
  sayNumber,
  sayPart,
  sayPoint,
  sayAxis,
  sayShift,
  sayThose,
  several,
  withUnit,
  type Shift,
  type Those,
} from '../phrases.ts';

/** What came or went. */
type Verb = 'added' | 'removed';

/** A property that changed; without `from` where it was several things before. */
interface Value {
  readonly property: string;
  readonly from?: string;
  readonly to: string;
}

/** How many shapes within a definition were changed, added and removed. */
export interface Inside {
  readonly changed: number;
  readonly added: number;
  readonly removed: number;
}

/** Layers that parts are on: how many, and the name where it is one (empty for none). */
export interface OnLayers extends Called {
  readonly count: number;
  readonly name: string;
}

/** What layers are called there, where they are called otherwise. */
interface Called {
  readonly called?: string;
}

const sayOnLayers = ({ count, name, called = 'layer' }: OnLayers): string => {
  if (count !== 1) return ` on ${several(count, called)}`;
  return name ? ` on ${called} ${quoted(name)}` : '';
};

const sayPlaceSize = ([width, height]: readonly [number, number]): string =>
  `${sayNumber(width)} × ${sayNumber(height)}`;

/** Without words where nothing of it is known. */
function sayInside({ changed, added, removed }: Inside): string {
  const said: string[] = [];
  if (changed) said.push(`${plural(changed, 'shape')} changed`);
  if (added) said.push(`${changed ? added : plural(added, 'shape')} added`);
  if (removed) said.push(`${changed || added ? removed : plural(removed, 'shape')} removed`);
  return said.length ? ` (${said.join(', ')})` : '';
}

const sayValue = ({ property, from, to }: Value): string =>
  from === undefined ? `${property} now ${to}` : `${property} ${from} → ${to}`;

/** Words of SVG for what parts are painted with. */
const servers: Readonly<Record<string, string>> = {
  linearGradient: 'Gradient',
  radialGradient: 'Gradient',
  pattern: 'Pattern',
  clipPath: 'Clip',
  mask: 'Mask',
  marker: 'Marker',
  filter: 'Filter',
};

const definitionWord = (kind: string): string => servers[kind] ?? capital(kind);

function sayEverything(how: { scale?: number; turn?: number; shift?: Shift }): string {
  const said: string[] = [];
  if (how.scale !== undefined) said.push(`scaled by ${sayNumber(how.scale)}`);
  if (how.turn !== undefined) said.push(`turned by ${sayNumber(how.turn)}°`);
  if (how.shift) said.push(`moved by ${sayShift(how.shift)}`);
  const last = said.pop() ?? '';
  return said.length ? `${said.join(', ')} and ${last}` : last;
}

interface LookValue {
  readonly property: string;
  readonly from: string;
  readonly to: string;
}

/** Layers are hidden and shown by several properties; to people it is one thing. */
interface LayerLook {
  readonly shown?: boolean;
  readonly values: readonly LookValue[];
}

const sayShown = (shown: boolean): string => (shown ? 'shown again' : 'hidden');

const partsAfterComma = (parts: number): string => (parts ? `, ${plural(parts, 'part')}` : '');

function sayLayerLook(name: string, { shown, values }: LayerLook): string {
  const said = values.map(({ property, from, to }) => `${property} ${from} → ${to}`).join(', ');
  const head = shown === undefined ? quoted(name) : `${quoted(name)} ${sayShown(shown)}`;
  if (!said) return `Layer ${head}`;
  return `Layer ${head}${shown === undefined ? ':' : ';'} ${said}`;
}

interface MotionSaid {
  readonly who: Those;
  readonly how: 'moved' | 'turned' | 'mirrored';
  readonly by?: Shift;
  readonly turn?: number;
  readonly about?: readonly [number, number];
  /** Of what stands in space: the axis that it was turned about. */
  readonly axis?: readonly [number, number, number];
  /** Parts that were stretched with them. */
  readonly stretched: number;
}

function sayHow({ who, how, by, turn, about, axis }: MotionSaid): string {
  const together = who.count > 1 ? ' together' : '';
  if (how === 'moved' && by) return `moved${together} by ${sayShift(by)}`;
  if (how === 'turned' && turn !== undefined)
    return `turned${together} by ${sayNumber(turn)}°${axis ? ` about ${sayAxis(axis)}` : ''}${about ? ` about ${sayPoint(about)}` : ''}`;
  return `${how}${together}`;
}

export const drawingSayings = {
  'numbers-converted': ({ ratio }: { ratio: number }) => `Every number × ${sayNumber(ratio)}, shown as large as before`,
  'units-converted': ({ from, to }: { from: string; to: string }) =>
    `Drawing units ${from} → ${to}, with every number converted`,
  'units-renamed': ({ from, to, ratio }: { from: string; to: string; ratio?: number }) =>
    `Drawing units ${from} → ${to}${ratio === undefined ? '' : `; the numbers stay, so everything is ${sayNumber(ratio)} times as large`}`,
  'everything-placed': ({ parts, ...how }: { scale?: number; turn?: number; shift?: Shift; parts: number }) =>
    `Everything ${sayEverything(how)}, ${plural(parts, 'part')}`,
  'page-came': ({ name, verb, parts }: { name: string; verb: Verb; parts: number }) =>
    `Page ${quoted(name)} ${verb}, ${parts ? `with ${plural(parts, 'part')}` : 'empty'}`,
  'page-resized': ({
    names,
    from,
    to,
    unit,
  }: {
    names: readonly string[];
    from: readonly [number, number];
    to: readonly [number, number];
    unit: string;
  }) =>
    `${names.length === 1 ? `Page ${quoted(names[0] ?? '')}` : plural(names.length, 'page')}: ${sayPlaceSize(from)} → ${withUnit(sayPlaceSize(to), unit)}`,
  'page-window': ({ from, to }: { from: readonly [number, number]; to: readonly [number, number] }) =>
    `Page begins at ${sayPoint(to)}, before at ${sayPoint(from)}`,
  'page-shown': ({ from, to }: { from: readonly [number, number]; to: readonly [number, number] }) =>
    `Page shown ${sayPlaceSize(to)} mm large, before ${sayPlaceSize(from)} mm`,
  'page-fitted': ({ from, to }: { from: string; to: string }) =>
    `Page fitted into its frame otherwise: ${from} → ${to}`,
  'page-moved': ({ name, was }: { name: string; was: number }) => `Page ${quoted(name)} was page ${was}`,
  'page-turned': ({ names, degrees }: { names: readonly string[]; degrees: number }) => {
    const way = degrees === 270 ? 'by 90° to the left' : `by ${degrees}°${degrees === 90 ? ' to the right' : ''}`;
    return names.length === 1
      ? `Page ${quoted(names[0] ?? '')} turned ${way}`
      : `${plural(names.length, 'page')} turned ${way}`;
  },
  'page-scanned-anew': ({ page }: { page: string }) => `“${page}” scanned anew; nothing on it changed`,
  'page-looks-different': ({ page, places }: { page: string; places?: number }) =>
    places === undefined
      ? `Page “${page}” looks different, though its words and shapes are the same`
      : `Page “${page}” looks different in ${plural(places, 'place')} where no part changed`,

  'block-exploded': ({ name, placements, parts }: { name: string; placements: number; parts: number }) =>
    `Block ${quoted(name)} taken apart: ${plural(placements, 'placement')} into ${plural(parts, 'part')}`,
  'block-made': ({ name, placements, parts }: { name: string; placements: number; parts: number }) =>
    `${plural(parts, 'part')} made into ${plural(placements, 'placement')} of block ${quoted(name)}`,
  'lines-regrouped': ({
    what,
    how,
    from,
    into,
  }: {
    what: 'arc' | 'line';
    how: 'split' | 'joined';
    from: number;
    into: number;
  }) => `${plural(from, what)} ${how} into ${into.toLocaleString('en')}, nothing else`,
  rewritten: ({ count, from, to }: { count: number; from: string; to: string }) =>
    `${several(count, from)} now written as ${count === 1 ? to : pluralOf(to)}, drawn the same`,
  'written-otherwise': ({ parts, groups }: { parts: number; groups?: 'gone' }) =>
    `Written otherwise, drawn the same: ${plural(parts, 'part')}${groups ? '; no groups any more' : ''}`,
  renumbered: ({ only }: { only: boolean }) => `Everything renumbered${only ? ', nothing else' : ''}`,
  'order-changed': ({ parts }: { parts: number }) =>
    `Drawing order changed: ${plural(parts, 'part')} ${parts === 1 ? 'stands' : 'stand'} elsewhere in it`,

  'definition-changed': ({
    kind,
    name,
    placements,
    inside,
  }: {
    kind: string;
    name: string;
    placements: number;
    inside: Inside;
  }) => `${definitionWord(kind)} ${quoted(name)} changed: ${plural(placements, 'placement')}${sayInside(inside)}`,
  'definition-replaced': ({
    kind,
    from,
    to,
    placements,
  }: {
    kind: string;
    from: string;
    to: string;
    placements: number;
  }) => `${definitionWord(kind)} ${quoted(from)} replaced by ${quoted(to)}: ${plural(placements, 'placement')}`,
  'paint-changed': ({ kind, name, parts }: { kind: string; name: string; parts: number }) =>
    `${definitionWord(kind)}${name ? ` ${quoted(name)}` : ''} changed: ${plural(parts, 'part')}`,
  'paint-replaced': ({ kind, from, to, parts }: { kind: string; from: string; to: string; parts: number }) =>
    `${definitionWord(kind)} ${quoted(from)} replaced by ${quoted(to)}: ${plural(parts, 'part')}`,
  'library-changed': ({
    verb,
    count,
    kind,
    name,
  }: {
    verb: 'changed' | 'added' | 'removed';
    count: number;
    kind: string;
    name: string;
  }) =>
    count === 1
      ? `${definitionWord(kind)} ${quoted(name)}, which nothing places, ${verb}`
      : `${plural(count, 'definition')} that nothing places ${verb}`,
  'dimension-measures': ({ who, from, to }: { who: Those; from: string; to: string }) =>
    `${sayThose(who)}: measures ${from} → ${to}`,
  'dimensions-redrawn': ({ count }: { count: number }) => `${plural(count, 'dimension')} drawn anew`,
  'placements-renamed': ({ from, to, placements }: { from: string; to: string; placements: number }) =>
    `${quoted(from)} renamed ${quoted(to)}: ${plural(placements, 'placement')}`,

  'layer-renamed': ({ from, to, parts }: { from: string; to: string; parts: number }) =>
    `Layer ${quoted(from)} renamed ${quoted(to)}, ${plural(parts, 'part')}`,
  'put-on-layer': ({ who, from, to, called }: { who: Those; from: string; to: string } & Called) =>
    called
      ? `${sayThose(who)}: ${called} ${from || 'none'} → ${to || 'none'}`
      : `${sayThose(who)} put from ${from ? `layer ${quoted(from)}` : 'no layer'} ${to ? `on layer ${quoted(to)}` : 'on none'}`,
  'put-on-one-layer': ({
    who,
    from,
    to,
    called = 'layer',
  }: { who: Those; from: readonly string[]; to: string } & Called) =>
    `${sayThose(who)} of ${several(from.length, called)} put on ${called} ${quoted(to)}`,
  'layer-declared': ({ name, verb }: { name: string; verb: Verb }) =>
    verb === 'added' ? `Layer ${quoted(name)} added, empty` : `Layer ${quoted(name)} removed; it was empty`,
  'layer-look': ({ name, look, parts }: { name: string; look: LayerLook; parts: number }) =>
    `${sayLayerLook(name, look)}${partsAfterComma(parts)}`,
  'layers-look': ({ layers, look, parts }: { layers: number; look: LayerLook; parts: number }) =>
    `${layers} layers: ${[
      ...(look.shown === undefined ? [] : [sayShown(look.shown)]),
      ...look.values.map(({ property, to }) => `${property} now ${to}`),
    ].join(', ')}${partsAfterComma(parts)}`,

  moved: (said: MotionSaid) =>
    `${sayThose(said.who)} ${sayHow(said)}${said.stretched ? `, and ${plural(said.stretched, 'part')} stretched with ${said.who.count === 1 ? 'it' : 'them'}` : ''}`,
  respaced: ({ who, from, to, unit }: { who: Those; from: number; to: number; unit: string }) =>
    `${sayThose(who)} set anew, evenly: ${sayNumber(from)} → ${sayNumber(to)}${unit && ` ${unit}`} from one to the next`,
  stretched: ({ who, by }: { who: Those; by: Shift }) => `${sayThose(who)} stretched by ${sayShift(by)}`,
  scaled: ({
    who,
    scale,
    about,
  }: {
    who: Those;
    scale: number;
    /** Absent where there is no one point. */
    about?: readonly [number, number] | 'each';
  }) => {
    const where = about === undefined ? '' : ` about ${about === 'each' ? '' : sayPoint(about)}`;
    return `${sayThose(who)} scaled by ${sayNumber(scale)}${about === 'each' ? ', each where it stands' : where}`;
  },

  'words-replaced': ({ from, to, texts }: { from: string; to: string; texts: number }) => {
    const many = plural(texts, 'text');
    if (from && to) return `${quoted(from)} replaced by ${quoted(to)} in ${many}`;
    return to ? `${quoted(to)} put into ${many}` : `${quoted(from)} taken out of ${many}`;
  },
  'numbers-shifted': ({ texts, first, last, by }: { texts: number; first: string; last: string; by: number }) =>
    `${plural(texts, 'text')} renumbered: ${quoted(first)} to ${quoted(last)}, each ${Math.abs(by)} ${by > 0 ? 'more' : 'less'} than before`,
  'texts-differ': ({ texts, example }: { texts: number; example: string }) =>
    `${plural(texts, 'text')} say something else, such as ${quoted(example)}`,
  'text-differs': ({ kind, name, from, to }: { kind: string; name: string; from: string; to: string }) =>
    `${kind === 'text' ? 'Text' : capital(sayPart(kind, name))} ${quoted(from)} now ${quoted(to)}`,
  'fields-filled': ({ block, fields, more }: { block: string; fields: readonly LookValue[]; more: number }) =>
    `${capital(block)}: ${fields.map((f) => `${f.property} ${quoted(f.from)} → ${quoted(f.to)}`).join(', ')}${more ? ` and ${more} more` : ''}`,

  'layer-came': ({ name, verb, parts, called = 'layer' }: { name: string; verb: Verb; parts: number } & Called) =>
    `${capital(called)} ${quoted(name)} ${verb} with ${plural(parts, 'part')}`,
  'copies-came': ({ count, of, verb }: { count: number; of: string; verb: Verb }) =>
    `${plural(count, 'placement')} of ${quoted(of)} ${verb}`,
  'parts-came': ({ who, verb, layers }: { who: Those; verb: Verb; layers?: OnLayers }) =>
    `${sayThose(who)} ${verb}${layers ? sayOnLayers(layers) : ''}`,
  'group-came': ({
    kinds,
    count,
    verb,
    layers,
  }: {
    /** Empty where there are too many to be named. */
    kinds: readonly { readonly kind: string; readonly count: number }[];
    count: number;
    verb: Verb;
    layers: OnLayers;
  }) =>
    `${kinds.length ? kinds.map((k) => several(k.count, k.kind)).join(' and ') : plural(count, 'part')} ${verb}${sayOnLayers(layers)}`,

  'look-changed': ({ who, values }: { who: Those; values: readonly Value[] }) =>
    `${sayThose(who)}: ${values.map(sayValue).join(', ')}`,
  'looks-changed': ({ who, properties }: { who: Those; properties: readonly string[] }) =>
    `${sayThose(who)}: ${properties.join(', ')} changed, each to another value`,
  reshaped: ({ who, from, to }: { who: Those; from?: string; to?: string }) =>
    `${sayThose(who)} reshaped${from === undefined || from === to ? '' : `: ${from} → ${to}`}`,
  'property-changed': ({ who, property, from, to }: { who: Those; property: string; from?: string; to?: string }) => {
    const head = `${sayThose(who)}: ${property}`;
    if (to === undefined) return `${head} changed`;
    return from === undefined ? `${head} now ${quoted(to)}` : `${head} ${quoted(from)} → ${quoted(to)}`;
  },
};
