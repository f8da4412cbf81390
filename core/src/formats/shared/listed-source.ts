/** A file that is a list of records: lines of a text, pages of a document, pieces of a model. */
import type { At, Fields, Gap, Rename, Source, SourceNode, Splice } from '../../model/source.ts';

export const nothing = new Uint8Array(0);

export abstract class ListedSource implements Source {
  abstract readonly format: string;
  readonly order: Source['order'] = 'always';
  readonly nodes: SourceNode[] = [];
  readonly bytes: Uint8Array;

  protected constructor(bytes: Uint8Array, whole: string) {
    this.bytes = bytes;
    this.nodes.push({ kind: whole, keys: [], parent: -1, children: [], start: 0, end: bytes.length });
  }

  protected add(kind: string, start: number, end: number, keys: string[] = []): void {
    this.nodes[0]?.children.push(this.nodes.length);
    this.nodes.push({ kind, keys, parent: 0, children: [], start, end });
  }

  protected at(node: number): SourceNode {
    return this.nodes[node] as SourceNode;
  }

  abstract fields(node: number, rename?: Rename): Fields;
  abstract changed(node: number, from: At, to: At, rename: Rename, keep: ReadonlySet<string>): Splice[];
  abstract copied(from: At, rename: Rename): { readonly head: Uint8Array; readonly tail: Uint8Array };
  abstract written(splices: readonly Splice[]): Uint8Array;

  refersTo(_node: number): string[] {
    return [];
  }

  isHousekeeping(): boolean {
    return false;
  }

  nodeOf(_span: readonly [start: number, end: number], index: number): number {
    return index + 1;
  }

  roomBefore(): Uint8Array {
    return nothing;
  }

  gap(_parent: number, behind: number): Gap {
    const at = behind < 0 ? 0 : this.at(behind).end;
    return { at, end: at, open: nothing, close: nothing };
  }

  extent(node: number): readonly [number, number] {
    const { start, end } = this.at(node);
    return [start, end];
  }

  free(key: string, _taken: (key: string) => boolean): string {
    return key;
  }
}
