/** Products of an assembly, and where each of them stands (ISO 10303-41, -43 and -44). */
import { lengthIn, type LengthUnit } from '../shared/step21/length.ts';
import { asItStands, placedWithin, undone, type Placing } from '../../mesh/placing.ts';
import { placingOfAxes } from '../shared/step21/axes.ts';
import type { StepFile } from '../shared/step21/scan.ts';
import { Ref, type Value } from '../shared/step21/values.ts';

/** Assemblies within assemblies. */
const DEEPEST = 64;

export interface Occurrence {
  readonly name: string;
  /** Names of the assemblies that hold it, outermost first. */
  readonly parents: readonly string[];
  readonly placing: Placing;
  /** Number of the record of its product's definition. */
  readonly id: number;
  /** Number of the record of its shape; undefined where it has none. */
  readonly shape: number | undefined;
}

interface Use {
  readonly child: number;
  readonly placing: Placing;
}

/** Products that hold no others, as often as they occur; at most `most`, or undefined where there are more. */
export function occurrencesIn(file: StepFile, most: number): Occurrence[] | undefined {
  const assembly = new Assembly(file);
  const out: Occurrence[] = [];
  const walk = (id: number, parents: readonly string[], placing: Placing): boolean => {
    if (parents.length > DEEPEST || out.length > most) return false;
    const uses = assembly.usesOf(id);
    const name = assembly.nameOf(id);
    if (uses.length === 0) out.push({ name, parents, placing, id, shape: assembly.shapeOf(id) });
    return uses.every((use) => walk(use.child, [...parents, name], placedWithin(placing, use.placing)));
  };
  if (!assembly.roots().every((root) => walk(root, [], asItStands))) return undefined;
  // Materials and documents are products, too, beside those that have a shape.
  const shaped = out.filter(({ shape }) => shape !== undefined);
  return shaped.length > 0 ? shaped : out;
}

class Assembly {
  private readonly file: StepFile;
  private readonly uses = new Map<number, Use[]>();
  private readonly children = new Set<number>();
  /** By a product's definition: its shape. */
  private readonly shapes = new Map<number, number>();

  constructor(file: StepFile) {
    this.file = file;
    for (const id of file.ofType('SHAPE_DEFINITION_REPRESENTATION')) {
      const [definition, shape] = file.values(id);
      const of = definition instanceof Ref ? file.values(definition.id)[2] : undefined;
      if (of instanceof Ref && shape instanceof Ref) this.shapes.set(of.id, shape.id);
    }
    const placed = this.placedUses();
    for (const id of file.ofType('NEXT_ASSEMBLY_USAGE_OCCURRENCE')) {
      const [, , , parent, child] = file.values(id);
      if (!(parent instanceof Ref) || !(child instanceof Ref)) continue;
      this.children.add(child.id);
      const use = { child: child.id, placing: placed.get(id)?.(parent.id) ?? asItStands };
      const known = this.uses.get(parent.id);
      if (known) known.push(use);
      else this.uses.set(parent.id, [use]);
    }
  }

  shapeOf = (id: number): number | undefined => this.shapes.get(id);

  usesOf = (id: number): readonly Use[] => this.uses.get(id) ?? [];

  roots(): number[] {
    const { file } = this;
    return [
      ...file.ofType('PRODUCT_DEFINITION'),
      ...file.ofType('PRODUCT_DEFINITION_WITH_ASSOCIATED_DOCUMENTS'),
    ].filter((id) => !this.children.has(id));
  }

  nameOf(id: number): string {
    const { file } = this;
    const formation = file.values(id)[2];
    const product = formation instanceof Ref ? file.values(formation.id)[2] : undefined;
    const [number, name] = product instanceof Ref ? file.values(product.id) : [];
    const said = typeof name === 'string' && name ? name : number;
    return typeof said === 'string' && said ? said : `product ${id}`;
  }

  /** By the number of a use: how the child stands in a parent. */
  private placedUses(): Map<number, (parent: number) => Placing> {
    const { file } = this;
    const out = new Map<number, (parent: number) => Placing>();
    for (const id of file.ofType('CONTEXT_DEPENDENT_SHAPE_REPRESENTATION')) {
      const [relation, of] = file.values(id);
      const use = of instanceof Ref ? file.values(of.id)[2] : undefined;
      if (!(relation instanceof Ref) || !(use instanceof Ref)) continue;
      out.set(use.id, (parent) => this.placingOf(relation.id, parent));
    }
    return out;
  }

  private placingOf(relation: number, parent: number): Placing {
    const calls = this.file.calls(relation);
    const given = (type: string): readonly Value[] => calls.find((call) => call.type === type)?.values ?? [];
    const [, , first] = given('REPRESENTATION_RELATIONSHIP');
    const [transformation] = given('REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION');
    if (!(transformation instanceof Ref)) return asItStands;
    const [, , from, to] = this.file.values(transformation.id);
    if (!(from instanceof Ref) || !(to instanceof Ref)) return asItStands;
    const [own, there] = [placingOfAxes(this.file, from.id, 1), placingOfAxes(this.file, to.id, 1)];
    // Some programs write the parent first.
    const isSwapped = first instanceof Ref && first.id === this.shapes.get(parent);
    const back = undone(isSwapped ? there : own);
    return back ? placedWithin(isSwapped ? own : there, back) : asItStands;
  }
}

/** The unit of the first context that has one; undefined where the file does not say. */
export function lengthUnitOf(file: StepFile): LengthUnit | undefined {
  // Contexts are put together of several types, so that none of their names stands first.
  for (const id of file.ofType('')) {
    const context = file.calls(id).find(({ type }) => type === 'GLOBAL_UNIT_ASSIGNED_CONTEXT');
    const found = context && lengthIn(file, context.values[0]);
    if (found) return found;
  }
  return undefined;
}
