/** OBJ: points, and faces of them in groups that people name. Its numbers have no unit; most programs write y up. */
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Solid } from '../../model/solid.ts';
import { withOwnPoints } from '../../mesh/own-points.ts';
import { weldedMesh } from '../../mesh/weld.ts';
import { SolidBuilder } from '../shared/solid-builder.ts';
import { finite, linesOf, Numbers, programIn } from '../shared/solid-text.ts';

interface Group {
  readonly name: string;
  readonly material: string;
  readonly triangles: number[];
  readonly start: number;
  end: number;
}

/** Throws ReadError where there is no face. */
export function readObj(bytes: Uint8Array, limits: Limits): Solid {
  if (bytes.length > limits.bytes)
    throw new ReadError('The model is larger than Ovrel looks into.', undefined, 'too-large');
  const reading = new Reading(limits);
  for (const { line, at } of linesOf(bytes)) reading.line(line, at);
  return reading.finish(bytes.length);
}

class Reading {
  private readonly limits: Limits;
  private readonly points: Numbers;
  private readonly groups = new Map<string, Group>();
  private name = '';
  private material = '';
  private triangles = 0;
  private program = '';
  private strange = 0;

  constructor(limits: Limits) {
    this.limits = limits;
    this.points = new Numbers(3 * limits.points);
  }

  line(line: string, at: number): void {
    const [word = '', ...values] = line.trim().split(/\s+/);
    switch (word) {
      case 'v':
        if (values.length < 3) throw new ReadError('A point has no three numbers.', at);
        for (const value of values.slice(0, 3)) this.points.push(finite(Number(value), at));
        break;
      case 'f':
        this.face(values, at, at + line.length);
        break;
      case 'o':
      case 'g':
        this.name = values.join(' ');
        break;
      case 'usemtl':
        this.material = values.join(' ');
        break;
      case '#':
        this.program ||= values.join(' ').slice(0, 80);
        break;
      case 'curv':
      case 'surf':
        this.strange++;
    }
  }

  /** A polygon is cut into triangles from its first corner. */
  private face(corners: readonly string[], at: number, end: number): void {
    const count = this.points.length / 3;
    const own = corners.map((corner) => {
      const said = Number.parseInt(corner, 10);
      const point = said < 0 ? count + said : said - 1;
      if (!(point >= 0 && point < count))
        throw new ReadError(`A face names the point ${corner}, which is not there.`, at);
      return point;
    });
    const group = this.group(at);
    group.end = end;
    for (let k = 2; k < own.length; k++) group.triangles.push(own[0] as number, own[k - 1] as number, own[k] as number);
    this.triangles += Math.max(0, own.length - 2);
    if (3 * this.triangles > this.limits.points)
      throw new ReadError('The model has more triangles than Ovrel looks into.', undefined, 'too-large');
  }

  private group(at: number): Group {
    const key = `${this.name}\n${this.material}`;
    const known = this.groups.get(key);
    if (known) return known;
    const fresh: Group = { name: this.name, material: this.material, triangles: [], start: at, end: at };
    this.groups.set(key, fresh);
    return fresh;
  }

  finish(length: number): Solid {
    if (this.triangles === 0) throw new ReadError('There is no face in this model.', length, 'empty');
    const builder = new SolidBuilder(this.limits);
    if (this.strange > 0) builder.notes.push('Its curves and free surfaces are not looked at, only its faces.');
    const points = this.points.finish();
    for (const group of this.groups.values()) {
      const mesh = weldedMesh(withOwnPoints(points, group.triangles));
      const given = {
        name: group.name || 'body',
        category: group.material,
        props: {
          ...(group.name ? { name: group.name } : {}),
          ...(group.material ? { material: group.material } : {}),
        },
      };
      if (group.name === '' || this.groups.size === 1) builder.addBodies({ kind: 'body', ...given }, mesh);
      else
        builder.add(
          { kind: 'group', key: `${group.name} ${group.material}`, ...given, span: [group.start, group.end] },
          mesh,
        );
    }
    return builder.finish('obj', programIn(this.program));
  }
}
