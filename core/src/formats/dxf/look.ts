/** How entities look: colour, line type and weight, their own or taken from layer and block. */
import type { Layer, Scalar } from '../../model/design.ts';
import { numberedColour, trueColour } from './colours.ts';
import { find, keyOf, nameOf, numberOf, type DxfDocument, type LayerRow, type Span } from './document.ts';
import type { Groups } from './groups.ts';

const DEFAULT_WEIGHT = 0.25;

/** Layers as the neutral model has them. */
export const layersOf = (doc: DxfDocument): Layer[] =>
  [...doc.layers.values()].map((row) => ({
    name: row.name,
    key: row.handle,
    props: {
      colour: row.colour,
      'line type': row.lineType,
      'line weight': row.lineWeight ?? DEFAULT_WEIGHT,
      ...(row.off ? { off: 'yes' } : {}),
      ...(row.frozen ? { frozen: 'yes' } : {}),
      ...(row.locked ? { locked: 'yes' } : {}),
      ...(row.plots ? {} : { plots: 'no' }),
    },
  }));

/** What settles a look that is not the entity's own. */
interface Settled {
  readonly layer: LayerRow | undefined;
  /** What is "by block" is settled by each placement. */
  readonly inBlock: boolean;
  /** So is everything by layer 0 within a block. */
  readonly fromPlacement: boolean;
}

const WHITE = 7;

/** By a number of the palette: 0 is by block, 256 by layer. */
function colourOf(number: number, { layer, inBlock, fromPlacement }: Settled): string {
  if (number === 0) return inBlock ? 'by block' : numberedColour(WHITE);
  if (number !== 256) return numberedColour(number);
  return fromPlacement ? 'by layer' : (layer?.colour ?? numberedColour(WHITE));
}

function lineTypeOf(type: string, { layer, inBlock, fromPlacement }: Settled): string {
  if (/^byblock$/i.test(type)) return inBlock ? 'by block' : 'Continuous';
  if (!/^bylayer$/i.test(type)) return type;
  return fromPlacement ? 'by layer' : (layer?.lineType ?? 'Continuous');
}

/** In millimetres, from hundredths: −1 is by layer, −2 by block, −3 the default. */
function lineWeightOf(weight: number, { layer, inBlock, fromPlacement }: Settled): Scalar {
  if (weight >= 0) return weight / 100;
  if (weight === -2 && inBlock) return 'by block';
  if (weight === -3) return DEFAULT_WEIGHT;
  return fromPlacement ? 'by layer' : (layer?.lineWeight ?? DEFAULT_WEIGHT);
}

/** Group 440: how much is seen through, in per cent; 0 where the layer or the placement decides. */
const transparencyOf = (value: number): number =>
  value >>> 24 === 2 ? Math.round((100 * (255 - (value & 255))) / 255) : 0;

/** Reads looks, and gives the same object for the same look, so that many parts share one. */
export class Looks {
  private readonly names = new Map<string, string>();
  private readonly known = new Map<string, Readonly<Record<string, Scalar>>>();
  private readonly doc: DxfDocument;

  constructor(doc: DxfDocument) {
    this.doc = doc;
  }

  /** The layer of an entity; the same string for the same layer. */
  layerName(span: Span): string {
    const name = nameOf(this.doc.groups, span, 8) ?? '0';
    const known = this.names.get(name);
    if (known !== undefined) return known;
    this.names.set(name, name);
    return name;
  }

  /** `inBlock`: colours and line types "by block", and everything by layer 0, are then settled by each placement. */
  of(
    span: Span,
    inBlock: boolean,
    more: Readonly<Record<string, Scalar>> | undefined,
  ): Readonly<Record<string, Scalar>> {
    const { groups: g } = this.doc;
    const layerName = this.layerName(span);
    const layer = this.doc.layers.get(keyOf(layerName));
    const fromPlacement = inBlock && layerName === '0';
    const number = numberOf(g, span, 62, 256);
    const full = find(g, span, 420);
    const type = nameOf(g, span, 6) ?? 'BYLAYER';
    const weight = numberOf(g, span, 370, -1);
    const scale = numberOf(g, span, 48, 1);
    const settled = { layer, inBlock, fromPlacement };
    const colour = full >= 0 ? trueColour(g.number(full)) : colourOf(number, settled);
    const lineType = lineTypeOf(type, settled);
    const lineWeight = lineWeightOf(weight, settled);
    const hidden = numberOf(g, span, 60, 0) === 1 || (!fromPlacement && this.layerHidden(layer));
    const clear = transparencyOf(numberOf(g, span, 440, 0));
    const data = extendedData(g, span);
    const key = `${colour}|${lineType}|${lineWeight}|${scale}|${clear}|${hidden}|${data ? JSON.stringify(data) : ''}|${more ? JSON.stringify(more) : ''}`;
    const known = this.known.get(key);
    if (known) return known;
    const props: Record<string, Scalar> = {
      colour,
      ...(/^continuous$/i.test(lineType) ? {} : { 'line type': lineType }),
      'line weight': lineWeight,
      ...(scale === 1 ? {} : { 'line type scale': scale }),
      ...(clear ? { transparency: `${clear} %` } : {}),
      ...(hidden ? { hidden: 'yes' } : {}),
      ...data,
      ...more,
    };
    if (this.known.size < 200_000) this.known.set(key, props);
    return props;
  }

  private layerHidden(layer: LayerRow | undefined): boolean {
    return layer !== undefined && (layer.off || layer.frozen);
  }
}

/** Extended data by the name of the application that wrote them; handles in them are numbering and left out. */
function extendedData(g: Groups, { first, last }: Span): Record<string, Scalar> | undefined {
  // They stand last in a record.
  if ((g.codes[last - 1] as number) < 1000) return undefined;
  let out: Record<string, string> | undefined;
  let application = '';
  for (let i = first + 1; i < last; i++) {
    const code = g.codes[i] as number;
    if (code < 1000) continue;
    if (code === 1001) application = g.text(i).trim();
    else if (code !== 1005 && code !== 1002) {
      out ??= {};
      const key = `data ${application}`;
      const before = out[key];
      if ((before?.length ?? 0) < 400) out[key] = before ? `${before} · ${g.text(i).trim()}` : g.text(i).trim();
    }
  }
  return out;
}
