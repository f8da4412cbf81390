/** Writes building models (IFC4, ISO 16739-1:2018, in the clear text of ISO 10303-21). Lengths in millimetres. */
import { createHash } from 'node:crypto';

export type Ref = `#${number}`;
type Point = readonly [x: number, y: number, z: number];

export interface Stamp {
  readonly by: string;
  readonly at: string;
  readonly program: string;
  /** Another one makes all identities new, as some programs do when they write a file again. */
  readonly identities: string;
}

/** A box along the axes: its lower corner in the middle of its foot, and its size. */
export interface Block {
  readonly at: Point;
  readonly size: Point;
}

const ALPHABET = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$';

export class BuildingFile {
  private readonly lines: string[] = [];
  private readonly stamp: Stamp;
  private readonly context: Ref;
  private readonly history: Ref;
  readonly project: Ref;

  constructor(stamp: Stamp, name: string) {
    this.stamp = stamp;
    const person = this.add('IFCPERSON', ['$', text(stamp.by), '$', '$', '$', '$', '$', '$']);
    const office = this.add('IFCORGANIZATION', ['$', text('Quillmere Works'), '$', '$', '$']);
    const both = this.add('IFCPERSONANDORGANIZATION', [person, office, '$']);
    const program = this.add('IFCAPPLICATION', [office, text('2.1'), text(stamp.program), text('landing')]);
    const seconds = String(Math.floor(Date.parse(stamp.at) / 1000));
    this.history = this.add('IFCOWNERHISTORY', [both, program, '$', '.ADDED.', '$', '$', '$', seconds]);
    const length = this.add('IFCSIUNIT', ['*', '.LENGTHUNIT.', '.MILLI.', '.METRE.']);
    const units = this.add('IFCUNITASSIGNMENT', [`(${length})`]);
    const origin = this.axes([0, 0, 0]);
    this.context = this.add('IFCGEOMETRICREPRESENTATIONCONTEXT', ['$', text('Model'), '3', '1.E-05', origin, '$']);
    const named = [text(name), '$', '$', '$', '$', `(${this.context})`, units];
    this.project = this.rooted('IFCPROJECT', 'project', named);
  }

  add(type: string, values: readonly string[]): Ref {
    const ref: Ref = `#${this.lines.length + 1}`;
    this.lines.push(`${ref}=${type}(${values.join(',')});`);
    return ref;
  }

  /** A thing with an identity, which follows from `identity` alone. */
  rooted(type: string, identity: string, values: readonly string[]): Ref {
    return this.add(type, [text(this.identityOf(identity)), this.history, ...values]);
  }

  axes([x, y, z]: Point, turn = 0): Ref {
    const point = this.add('IFCCARTESIANPOINT', [`(${real(x)},${real(y)},${real(z)})`]);
    if (turn === 0) return this.add('IFCAXIS2PLACEMENT3D', [point, '$', '$']);
    const angle = (turn * Math.PI) / 180;
    const up = this.add('IFCDIRECTION', ['(0.,0.,1.)']);
    const along = this.add('IFCDIRECTION', [`(${real(Math.cos(angle))},${real(Math.sin(angle))},0.)`]);
    return this.add('IFCAXIS2PLACEMENT3D', [point, up, along]);
  }

  placement(at: Point, within: Ref | undefined, turn = 0): Ref {
    return this.add('IFCLOCALPLACEMENT', [within ?? '$', this.axes(at, turn)]);
  }

  /** Bodies of one element, in a colour. */
  shape(blocks: readonly Block[], colour: Point): Ref {
    const items = blocks.map(({ at, size: [dx, dy, dz] }) => {
      const profile = this.add('IFCRECTANGLEPROFILEDEF', ['.AREA.', '$', '$', real(dx), real(dy)]);
      const up = this.add('IFCDIRECTION', ['(0.,0.,1.)']);
      const solid = this.add('IFCEXTRUDEDAREASOLID', [profile, this.axes(at), up, real(dz)]);
      this.paint(solid, colour);
      return solid;
    });
    const body = [this.context, text('Body'), text('SweptSolid'), list(items)];
    return this.add('IFCSHAPEREPRESENTATION', body);
  }

  private paint(item: Ref, [r, g, b]: Point): void {
    const colour = this.add('IFCCOLOURRGB', ['$', real(r), real(g), real(b)]);
    const shading = this.add('IFCSURFACESTYLESHADING', [colour, '$']);
    const style = this.add('IFCSURFACESTYLE', ['$', '.BOTH.', list([shading])]);
    this.add('IFCSTYLEDITEM', [item, list([style]), '$']);
  }

  shown(representation: Ref): Ref {
    return this.add('IFCPRODUCTDEFINITIONSHAPE', ['$', '$', list([representation])]);
  }

  /** What placements of a type share. */
  map(representation: Ref): Ref {
    return this.add('IFCREPRESENTATIONMAP', [this.axes([0, 0, 0]), representation]);
  }

  mapped(map: Ref): Ref {
    const origin = this.add('IFCCARTESIANPOINT', ['(0.,0.,0.)']);
    const target = this.add('IFCCARTESIANTRANSFORMATIONOPERATOR3D', ['$', '$', origin, '1.', '$']);
    const item = this.add('IFCMAPPEDITEM', [map, target]);
    return this.add('IFCSHAPEREPRESENTATION', [this.context, text('Body'), text('MappedRepresentation'), list([item])]);
  }

  properties(identity: string, name: string, values: Readonly<Record<string, string | number | boolean>>): Ref {
    const singles = Object.entries(values).map(([property, value]) =>
      this.add('IFCPROPERTYSINGLEVALUE', [text(property), '$', typed(value), '$']),
    );
    return this.rooted('IFCPROPERTYSET', identity, [text(name), '$', list(singles)]);
  }

  quantities(identity: string, name: string, lengths: Readonly<Record<string, number>>): Ref {
    const each = Object.entries(lengths).map(([quantity, value]) =>
      this.add('IFCQUANTITYLENGTH', [text(quantity), '$', '$', real(value), '$']),
    );
    return this.rooted('IFCELEMENTQUANTITY', identity, [text(name), '$', '$', list(each)]);
  }

  finish(): Uint8Array {
    const { by, at, program } = this.stamp;
    const head = [
      'ISO-10303-21;',
      'HEADER;',
      "FILE_DESCRIPTION(('ViewDefinition [ReferenceView_V1.2]'),'2;1');",
      `FILE_NAME('landing-shelter.ifc','${at}',(${text(by)}),('Quillmere Works'),'',${text(program)},'');`,
      "FILE_SCHEMA(('IFC4'));",
      'ENDSEC;',
      'DATA;',
    ];
    return new TextEncoder().encode([...head, ...this.lines, 'ENDSEC;', 'END-ISO-10303-21;', ''].join('\n'));
  }

  private identityOf(identity: string): string {
    const digest = createHash('sha256').update(`${this.stamp.identities} ${identity}`).digest();
    const first = ALPHABET.charAt((digest[0] ?? 0) % 4);
    return first + Array.from({ length: 21 }, (_, k) => ALPHABET.charAt((digest[k + 1] ?? 0) % 64)).join('');
  }
}

export const text = (words: string): string => `'${words.replaceAll("'", "''")}'`;
export const list = (refs: readonly string[]): string => `(${refs.join(',')})`;

/** Reals have a point. */
export function real(value: number): string {
  const said = String(Math.round(value * 1e6) / 1e6 + 0);
  return said.includes('.') ? said : `${said}.`;
}

function typed(value: string | number | boolean): string {
  if (typeof value === 'boolean') return `IFCBOOLEAN(${value ? '.T.' : '.F.'})`;
  return typeof value === 'number' ? `IFCREAL(${real(value)})` : `IFCLABEL(${text(value)})`;
}
