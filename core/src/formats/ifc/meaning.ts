/** What a record of a building model means with all that it refers to: without identities, owners and numbers. */
import { hashText } from '../../geometry/hash.ts';
import type { StepFile } from '../shared/step21/scan.ts';
import { Enumerated, Ref, Typed, type Value } from '../shared/step21/values.ts';

/** Records within records. */
const DEEPEST = 200;
/** Letters of an identity (ISO 16739-1: IfcGloballyUniqueId). */
const IDENTITY = 22;
/** Who wrote it, and in which space: of one file, all records have the same. */
const SILENT = /^IFC(?:OWNERHISTORY|GEOMETRICREPRESENTATION(?:SUB)?CONTEXT)$/;

/** Records that only describe another one, and which of their values that is. */
const describing: Readonly<Record<string, number>> = {
  IFCSTYLEDITEM: 0,
  IFCINDEXEDCOLOURMAP: 0,
  IFCMATERIALDEFINITIONREPRESENTATION: 3,
};

/** The record that this one only describes. */
export function describedBy(type: string | undefined, values: readonly Value[]): number | undefined {
  const place = describing[type ?? ''];
  const described = place === undefined ? undefined : values[place];
  return described instanceof Ref ? described.id : undefined;
}

export const isRooted = (values: readonly Value[]): boolean =>
  typeof values[0] === 'string' && values[0].length === IDENTITY && (values[1] instanceof Ref || values[1] === null);

export class Meanings {
  private readonly file: StepFile;
  private readonly known = new Map<number, string>();
  /** By a record: those that describe it. */
  private readonly described = new Map<number, number[]>();

  constructor(file: StepFile) {
    this.file = file;
    for (const type of Object.keys(describing))
      for (const id of file.ofType(type)) {
        const of = describedBy(type, file.values(id));
        if (of === undefined) continue;
        const others = this.described.get(of);
        if (others) others.push(id);
        else this.described.set(of, [id]);
      }
  }

  describing(id: number): readonly number[] {
    return this.described.get(id) ?? [];
  }

  of(id: number, depth = 0): string {
    const known = this.known.get(id);
    if (known !== undefined) return known;
    if (depth > DEEPEST) return '…';
    // Records that refer to one another in a circle end here.
    this.known.set(id, '…');
    const type = this.file.typeOf(id) ?? '';
    const digest = SILENT.test(type) ? type : hashText(this.saidBy(id, type, depth));
    this.known.set(id, digest);
    return digest;
  }

  value(value: Value | undefined, depth = 0): string {
    if (value instanceof Ref) return this.of(value.id, depth + 1);
    if (value instanceof Enumerated) return `.${value.name}.`;
    if (value instanceof Typed) return `${value.type}(${this.value(value.value, depth)})`;
    if (Array.isArray(value)) return this.list(value as readonly Value[], depth);
    return JSON.stringify(value ?? null);
  }

  private saidBy(id: number, type: string, depth: number): string {
    const { file } = this;
    const said = file.calls(id).map((call) => {
      const own = isRooted(call.values) ? call.values.slice(2) : call.values;
      // What a place is within is told by what stands there.
      const told = type === 'IFCLOCALPLACEMENT' ? own.slice(1) : own;
      return `${call.type}${this.list(told, depth)}`;
    });
    const about = this.describing(id).map((other) => {
      const values = file.values(other);
      const described = describing[file.typeOf(other) ?? ''];
      return this.list(
        values.filter((_, k) => k !== described),
        depth,
      );
    });
    return [...said, ...about.sort()].join(' ');
  }

  private list(values: readonly Value[], depth: number): string {
    return `(${values.map((value) => this.value(value, depth)).join(',')})`;
  }
}
