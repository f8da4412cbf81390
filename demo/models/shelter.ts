/** The shelter at the landing and the stairs down to the pontoon, as a building model in six versions. */
import { BuildingFile, list, real, text, type Block, type Ref, type Stamp } from './building-file.ts';

/** 0 first; 1 another bench; 2 upper deck raised; 3 fire ratings; 4 written anew by another program; 5 wrecked. */
export type ShelterStage = 0 | 1 | 2 | 3 | 4 | 5;

const stamps: readonly Stamp[] = [
  { by: 'Ines Calloway', at: '2026-10-06T09:14:00', program: 'Slipway Modeller', identities: 'first' },
  { by: 'Ines Calloway', at: '2026-10-13T16:40:00', program: 'Slipway Modeller', identities: 'first' },
  { by: 'Tobias Renn', at: '2026-10-20T11:05:00', program: 'Slipway Modeller', identities: 'first' },
  { by: 'Marit Oakes', at: '2026-10-27T08:22:00', program: 'Slipway Modeller', identities: 'first' },
  { by: 'Anselm Dray', at: '2026-11-03T13:31:00', program: 'Harbour Exchange', identities: 'second' },
  { by: 'Anselm Dray', at: '2026-11-04T17:58:00', program: 'Harbour Exchange', identities: 'second' },
];

const timber = [0.72, 0.55, 0.36] as const;
const steel = [0.45, 0.5, 0.55] as const;
const concrete = [0.75, 0.75, 0.72] as const;
const glass = [0.6, 0.75, 0.8] as const;
const lamp = [0.95, 0.9, 0.7] as const;

type Colour = typeof timber | typeof steel | typeof concrete | typeof glass | typeof lamp;
type Point = Block['at'];

interface Element {
  readonly type: string;
  readonly name: string;
  readonly at: Point;
  readonly turn?: number;
  readonly rated?: { readonly set: string; readonly rating: string };
}

class Shelter {
  private readonly file: BuildingFile;
  private readonly stage: ShelterStage;
  private readonly benches: number;
  private readonly contents = new Map<Ref, Ref[]>();
  private readonly typed = new Map<Ref, Ref[]>();
  private readonly storeys = new Map<Ref, Ref>();

  constructor(stage: ShelterStage, benches: number) {
    this.benches = benches;
    this.stage = stage;
    this.file = new BuildingFile(stamps[stage] ?? (stamps[0] as Stamp), 'Quillmere ferry landing');
  }

  make(): Uint8Array {
    const { file, stage } = this;
    const ground = file.placement([0, 0, 0], undefined);
    const site = this.space('IFCSITE', 'Landing site', ground, ['$', '$', '$', '$', '$']);
    const within = file.placement([0, 0, 0], ground);
    const building = this.space('IFCBUILDING', 'Shelter', within, ['$', '$', '$']);
    const lower = this.storey('Pontoon deck', 0, within);
    const upper = this.storey('Upper deck', stage >= 2 ? 3150 : 3000, within);
    this.aggregate('project', file.project, [site]);
    this.aggregate('site', site, [building]);
    this.aggregate('building', building, [lower, upper]);
    this.lowerDeck(lower);
    if (stage < 5) this.upperDeck(upper);
    for (const [storey, parts] of this.contents)
      file.rooted('IFCRELCONTAINEDINSPATIALSTRUCTURE', `in ${storey}`, ['$', '$', list(parts), storey]);
    for (const [type, parts] of this.typed)
      file.rooted('IFCRELDEFINESBYTYPE', `of ${type}`, ['$', '$', list(parts), type]);
    const all = file.finish();
    // The last save ended in the middle.
    return stage === 5 ? all.subarray(0, Math.floor(all.length * 0.82)) : all;
  }

  private lowerDeck(storey: Ref): void {
    const { stage } = this;
    this.solid(storey, 'IFCSLAB', 'Pontoon', [{ at: [6000, 3000, -400], size: [14_000, 7000, 400] }], concrete);
    this.repeated(storey, 'IFCCOLUMN', 'Post 120', [{ at: [0, 0, 0], size: [120, 120, 2700] }], steel, [
      ...row('Post', 8, ([k]) => [k * 1700, 500, 0]),
      ...row('Post rear', 8, ([k]) => [k * 1700, 5500, 0]),
    ]);
    const bench = stage >= 1 ? 'Bench with back' : 'Bench';
    const back: Block[] = stage >= 1 ? [{ at: [0, 180, 450], size: [1500, 40, 420] }] : [];
    const seat: Block[] = [
      { at: [0, 0, 400], size: [1500, 400, 50] },
      { at: [-650, 0, 0], size: [60, 360, 400] },
      { at: [650, 0, 0], size: [60, 360, 400] },
    ];
    const places = row('Bench', this.benches, ([k]) => [1200 + (k % 6) * 1750, 1500 + Math.floor(k / 6) * 1000, 0]);
    this.repeated(storey, 'IFCFURNITURE', bench, [...seat, ...back], timber, places);
    const rating = stage >= 3 ? 'EI 60' : 'EI 30';
    this.repeated(
      storey,
      'IFCDOOR',
      'Store door 900',
      [{ at: [0, 0, 0], size: [900, 60, 2050] }],
      timber,
      row('Store door', 6, ([k]) => [1000 + k * 2000, 6100, 0], { set: 'Pset_DoorCommon', rating }),
    );
    for (let k = 0; k < 12; k++)
      this.solid(
        storey,
        'IFCWALL',
        `Wall panel ${k + 1}`,
        [{ at: [500 + k * 1000, 6300, 0], size: [980, 120, 2700] }],
        timber,
        { set: 'Pset_WallCommon', rating },
      );
    const treads = Array.from({ length: 15 }, (_, k): Block => ({
      at: [12_700 + (14 - k) * 280, 3000, k * 200],
      size: [300, 1400, 60],
    }));
    this.solid(storey, 'IFCSTAIRFLIGHT', 'Stairs to the upper deck', treads, steel);
    this.repeated(
      storey,
      'IFCPIPESEGMENT',
      'Downpipe 100',
      [{ at: [0, 0, 0], size: [100, 100, 2600] }],
      steel,
      row('Downpipe', 4, ([k]) => [200 + k * 3900, 5800, 0]),
    );
  }

  private upperDeck(storey: Ref): void {
    this.solid(storey, 'IFCSLAB', 'Upper deck slab', [{ at: [6000, 3000, -200], size: [13_000, 6400, 200] }], concrete);
    this.solid(storey, 'IFCROOF', 'Roof', [{ at: [6000, 3000, 2500], size: [13_400, 6800, 90] }], timber);
    this.repeated(storey, 'IFCBEAM', 'Rafter 80 x 200', [{ at: [0, 0, 2300], size: [80, 6600, 200] }], timber, [
      ...row('Rafter', 14, ([k]) => [k * 920, 3000, 0]),
    ]);
    this.repeated(storey, 'IFCCOLUMN', 'Roof post 100', [{ at: [0, 0, 0], size: [100, 100, 2300] }], timber, [
      ...row('Roof post', 4, ([k]) => [200 + k * 3850, 400, 0]),
      ...row('Roof post rear', 4, ([k]) => [200 + k * 3850, 5600, 0]),
    ]);
    this.repeated(
      storey,
      'IFCRAILING',
      'Railing panel',
      [
        { at: [0, 0, 1000], size: [1000, 50, 50] },
        { at: [0, 0, 100], size: [1000, 12, 880] },
      ],
      glass,
      row('Railing', 12, ([k]) => [500 + k * 1000, 0, 0]),
    );
    this.repeated(
      storey,
      'IFCLIGHTFIXTURE',
      'Linear light',
      [{ at: [0, 0, 2240], size: [1200, 80, 60] }],
      lamp,
      row('Light', 16, ([k]) => [1000 + (k % 8) * 1500, 1800 + Math.floor(k / 8) * 2400, 0]),
    );
  }

  private space(type: string, name: string, placement: Ref, rest: readonly string[]): Ref {
    return this.file.rooted(type, name, [text(name), '$', '$', placement, '$', '$', '.ELEMENT.', ...rest]);
  }

  private storey(name: string, elevation: number, within: Ref): Ref {
    const placement = this.file.placement([0, 0, elevation], within);
    const storey = this.space('IFCBUILDINGSTOREY', name, placement, [real(elevation)]);
    this.storeys.set(storey, placement);
    this.contents.set(storey, []);
    return storey;
  }

  private aggregate(identity: string, whole: Ref, parts: readonly Ref[]): void {
    this.file.rooted('IFCRELAGGREGATES', `parts of ${identity}`, ['$', '$', whole, list(parts)]);
  }

  private solid(
    storey: Ref,
    type: string,
    name: string,
    blocks: readonly Block[],
    colour: Colour,
    rated?: Element['rated'],
  ): void {
    const shape = this.file.shape(blocks, colour);
    this.element(storey, { type, name, at: [0, 0, 0], ...(rated ? { rated } : {}) }, shape);
  }

  /** Elements of one type, which share its shape. */
  private repeated(
    storey: Ref,
    type: string,
    typeName: string,
    blocks: readonly Block[],
    colour: Colour,
    elements: readonly Omit<Element, 'type'>[],
  ): void {
    const { file } = this;
    const map = file.map(file.shape(blocks, colour));
    const typeOf = `${type}TYPE`;
    const named = [text(typeName), '$', '$', '$', list([map]), '$', '$', '.NOTDEFINED.'];
    // Furniture and doors say more of themselves after that.
    const more = { IFCFURNITURE: ['.NOTDEFINED.'], IFCDOOR: ['.NOTDEFINED.', '$', '$'] }[type];
    const kindOf = file.rooted(typeOf, `type ${typeName}`, more ? [...named.slice(0, 7), ...more] : named);
    const placed = elements.map((element) => this.element(storey, { ...element, type }, file.mapped(map)));
    this.typed.set(kindOf, placed);
  }

  private element(storey: Ref, { type, name, at, turn = 0, rated }: Element, representation: Ref): Ref {
    const { file } = this;
    const placement = file.placement(at, this.storeys.get(storey), turn);
    const shape = file.shown(representation);
    const rest = { IFCDOOR: ['2050.', '900.', '$', '$', '$'] }[type] ?? ['$'];
    const element = file.rooted(type, name, [text(name), '$', '$', placement, shape, '$', ...rest]);
    this.contents.get(storey)?.push(element);
    if (rated) {
      const set = file.properties(`${rated.set} of ${name}`, rated.set, {
        FireRating: rated.rating,
        IsExternal: type === 'IFCWALL',
      });
      file.rooted('IFCRELDEFINESBYPROPERTIES', `fire of ${name}`, ['$', '$', list([element]), set]);
    }
    return element;
  }
}

const row = (
  name: string,
  count: number,
  at: (k: readonly [number]) => Point,
  rated?: Element['rated'],
): Omit<Element, 'type'>[] =>
  Array.from({ length: count }, (_, k) => ({ name: `${name} ${k + 1}`, at: at([k]), ...(rated ? { rated } : {}) }));

/** With as many benches as are asked for. */
export const shelter = (stage: ShelterStage, { benches = 24 }: { readonly benches?: number } = {}): Uint8Array =>
  new Shelter(stage, benches).make();
