/**
 * A fingerprint of what a block holds: the same whatever the order, the handles and the names of layers that come
 * from the placement.
 */
import type { GeometryBuilder } from '../../geometry/builder.ts';
import { Hash, hashText } from '../../geometry/hash.ts';
import type { Definition, Part } from '../../model/design.ts';

/** Digits after the point that count, relative to the size of the content. */
const GRAIN = 1e-6;

export function fingerprintOf(
  content: readonly Part[],
  geometry: GeometryBuilder,
  definitions: readonly Definition[],
): string {
  let size = 0;
  for (const p of content)
    if (p.box) size = Math.max(size, Math.abs(p.box[0]), Math.abs(p.box[1]), Math.abs(p.box[2]), Math.abs(p.box[3]));
  const step = size * GRAIN || GRAIN;
  return hashText(
    `${size.toPrecision(6)} `.concat(
      content
        .map((p) => printOf(p, geometry, definitions, step))
        .sort()
        .join(' '),
    ),
  );
}

function printOf(p: Part, geometry: GeometryBuilder, definitions: readonly Definition[], step: number): string {
  const hash = new Hash().text(p.kind).text(p.category);
  for (const name in p.props) hash.text(name).text(String(p.props[name]));
  if (p.lettering) hash.text(p.lettering.words ?? p.lettering.runs.map((r) => r.text).join('\n'));
  if (p.lettering || p.definition !== undefined)
    for (const [k, v] of p.transform.entries()) hash.number(v, k < 4 ? 1e-6 : step);
  if (p.definition !== undefined) hash.text(definitions[p.definition]?.fingerprint ?? '');
  for (let s = p.firstSubpath; s < p.firstSubpath + p.subpaths; s++) {
    hash.int(s - p.firstSubpath);
    for (const v of geometry.pointsOf(s)) hash.number(v, step);
  }
  return hash.digest();
}
