/** What causes of layered pictures say. */
import { plural } from '../../text/plural.ts';
import { quotedList, sayDecimal, short, wholly } from '../phrases.ts';

/** A layer or a group of layers, by its name. */
export interface NamedLayer {
  readonly kind: 'layer' | 'group';
  readonly name: string;
}

const words = { layer: 'Layer', group: 'Group' } as const;

export const sayLayer = ({ kind, name }: NamedLayer): string => `${words[kind]} ${wholly(name)}`;

const percent = (v: number): string => `${Math.round(v * 100)} %`;

/** Where a layer stands among those of its group. */
export interface LayerStanding {
  readonly where: 'above' | 'beneath' | 'top' | 'elsewhere';
  readonly of?: string;
}

export const sayStanding = ({ where, of }: LayerStanding): string => {
  if (of !== undefined) return `${where} ${wholly(of)}`;
  return where === 'top' ? 'on top' : 'elsewhere';
};

export const layerSayings = {
  'layers-moved': ({ names, by }: { names: readonly string[]; by: readonly [number, number] }) => {
    const who =
      names.length === 1
        ? sayLayer({ kind: 'layer', name: names[0] ?? '' })
        : `${plural(names.length, 'layer')} (${quotedList(names)})`;
    return `${who} moved by (${by.map((v) => sayDecimal(v, 6)).join(', ')}) px`;
  },
  'picture-layer-came': ({
    layer,
    verb,
    held,
    hidden,
  }: {
    layer: NamedLayer;
    verb: 'added' | 'removed';
    /** Layers that a group holds; absent where it holds none. */
    held?: number;
    hidden: boolean;
  }) => {
    const went = verb === 'removed';
    const unseen = went ? ', was hidden' : ', hidden';
    return `${sayLayer(layer)} ${went ? 'deleted' : 'added'}${held === undefined ? '' : `, with ${plural(held, 'layer')}`}${hidden ? unseen : ''}`;
  },
  'picture-layer-renamed': ({ layer, to }: { layer: NamedLayer; to: string }) =>
    `${sayLayer(layer)} renamed ${wholly(to)}`,
  'layer-visibility': ({ layer, hidden }: { layer: NamedLayer; hidden: boolean }) =>
    `${sayLayer(layer)} ${hidden ? 'hidden' : 'shown'}`,
  'layer-opacity': ({ layer, from, to }: { layer: NamedLayer; from: number; to: number }) =>
    `${sayLayer(layer)}: opacity ${percent(from)} → ${percent(to)}`,
  'layer-blending': ({ layer, from, to }: { layer: NamedLayer; from: string; to: string }) =>
    `${sayLayer(layer)}: blending ${from} → ${to}`,
  'layer-words': ({ layer, from, to }: { layer: NamedLayer; from: string; to: string }) =>
    `${sayLayer(layer)}: ${wholly(short(from))} now ${wholly(short(to))}`,
  'layer-grouped': ({ layer, group }: { layer: NamedLayer; group: string }) =>
    `${sayLayer(layer)} put into group ${wholly(group)}`,
  'layer-ungrouped': ({ layer, group }: { layer: NamedLayer; group: string }) =>
    `${sayLayer(layer)} taken out of group ${wholly(group)}`,
  'colour-replaced': ({ from, to }: { from: string; to: string }) => `Recoloured ${from} → ${to}`,
  'layer-order': ({ name, now, was }: { name: string; now: LayerStanding; was: LayerStanding }) =>
    `Order changed: layer ${wholly(name)} is now ${sayStanding(now)}, was ${sayStanding(was)}`,
  'layers-merged': ({ all, names, into }: { all: boolean; names: readonly string[]; into: string }) =>
    `${all ? 'Layers flattened' : 'Layers put together'}: ${quotedList(names)} are one layer now, ${wholly(into)}; they look the same`,
  'layer-divided': ({ name, into }: { name: string; into: readonly string[] }) =>
    `Layer ${wholly(name)} taken apart: it is ${quotedList(into)} now; they look the same`,
  'picture-flattened': ({ layers }: { layers: number }) =>
    `Layers flattened: ${plural(layers, 'layer')} are one picture now`,
  'picture-layered': ({ layers }: { layers: number }) =>
    `Layers: what was one picture has ${layers.toLocaleString('en')} now`,
};
