/** The models of the demo, made anew each time to the same bytes: bodies added to and taken from one another. */
import { Document, WebIO, type Mesh as GltfMesh } from '@gltf-transform/core';
import { zipSync } from 'fflate';
import load, { type Manifold, type ManifoldToplevel } from 'manifold-3d';

import { hinge, type HingeStage } from './hinge.ts';
import { shelter, type ShelterStage } from './shelter.ts';

/** A file of the demo, and which of its versions. */
export interface ModelStage {
  readonly model: 'bracket' | 'post' | 'cap' | 'shelter' | 'hinge';
  readonly stage: number;
}

let loading: Promise<ManifoldToplevel> | undefined;

function bodies(): Promise<ManifoldToplevel> {
  loading ??= load().then((manifold) => {
    manifold.setup();
    return manifold;
  });
  return loading;
}

export async function makeModel({ model, stage }: ModelStage): Promise<Uint8Array> {
  if (model === 'shelter') return shelter(stage as ShelterStage);
  if (model === 'hinge') return hinge(stage as HingeStage);
  const manifold = await bodies();
  if (model === 'bracket') return stlOf(bracket(manifold, stage));
  return model === 'cap' ? capPackage(manifold, stage) : signPost(manifold, stage);
}

/** Millimetres: a wall plate with four holes, an arm, and a saddle for the rail. */
function bracket({ Manifold }: ManifoldToplevel, stage: number): Manifold {
  const thickness = stage >= 2 ? 10 : 8;
  const plate = Manifold.cube([90, thickness, 120]);
  const arm = Manifold.cube([16, 70, 16]).translate([37, thickness, 80]);
  const rib = Manifold.hull([
    Manifold.cube([8, 1, 56]).translate([22, thickness - 1, 26]),
    Manifold.cube([8, 40, 2]).translate([39, thickness, 80]),
  ]);
  const saddle = Manifold.cylinder(40, 26, 26, 48)
    .rotate([0, 90, 0])
    .translate([25, 78 + thickness, 104]);
  const rail = Manifold.cylinder(60, 21.2, 21.2, 48)
    .rotate([0, 90, 0])
    .translate([15, 78 + thickness, 104]);
  // The upper holes went further apart, since the old wall has a joint there.
  const up = stage >= 1 ? 110 : 96;
  const holes = [
    [14, 16],
    [76, 16],
    [14, up],
    [76, up],
  ].map(([x = 0, z = 0]) => Manifold.cylinder(30, 5.5, 5.5, 32).rotate([-90, 0, 0]).translate([x, -5, z]));
  const whole = Manifold.union([plate, arm, rib, saddle]).subtract(Manifold.union([rail, ...holes]));
  if (stage === 3) return whole.refineToLength(9);
  // Of the west side, where the rail runs the other way.
  return stage === 4 ? whole.subtract(drain(Manifold)).mirror([1, 0, 0]).translate([90, 0, 0]) : whole;
}

const drain = (body: ManifoldToplevel['Manifold']): Manifold =>
  body.cylinder(80, 3, 3, 24).translate([63, 78 + 10, 60]);

function stlOf(body: Manifold): Uint8Array {
  const { vertProperties, triVerts, numProp } = body.getMesh();
  const count = triVerts.length / 3;
  const out = new DataView(new ArrayBuffer(84 + 50 * count));
  const title = 'Quillmere ferry landing, handrail bracket';
  for (let k = 0; k < title.length; k++) out.setUint8(k, title.codePointAt(k) ?? 32);
  out.setUint32(80, count, true);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 9; k++) {
      const point = triVerts[3 * t + Math.floor(k / 3)] ?? 0;
      out.setFloat32(84 + 50 * t + 12 + 4 * k, vertProperties[point * numProp + (k % 3)] ?? 0, true);
    }
  return new Uint8Array(out.buffer);
}

/** Millimetres: six caps along the quay. */
function capPackage({ Manifold }: ManifoldToplevel, stage: number): Uint8Array {
  const height = stage >= 1 ? 210 : 180;
  const cap = Manifold.cylinder(height, 140, 120, 40)
    .add(Manifold.cylinder(30, 165, 165, 40).translate([0, 0, height]))
    .subtract(Manifold.cylinder(height - 20, 100, 90, 40).translate([0, 0, -10]));
  const { vertProperties, triVerts, numProp } = cap.getMesh();
  const say = (value: number | undefined): string => String(Math.round((value ?? 0) * 1000) / 1000);
  const vertices = Array.from(
    { length: vertProperties.length / numProp },
    (_, k) =>
      `<vertex x="${say(vertProperties[k * numProp])}" y="${say(vertProperties[k * numProp + 1])}" z="${say(vertProperties[k * numProp + 2])}"/>`,
  );
  const triangles = Array.from(
    { length: triVerts.length / 3 },
    (_, t) => `<triangle v1="${triVerts[3 * t]}" v2="${triVerts[3 * t + 1]}" v3="${triVerts[3 * t + 2]}"/>`,
  );
  const places = stage >= 2 ? [0, 1, 2, 3, 4, 5, 6] : [0, 1, 2, 3, 4, 5];
  const items = places.map((k) => `<item objectid="1" transform="1 0 0 0 1 0 0 0 1 ${k * 1500} 0 0"/>`);
  const model = `<?xml version="1.0" encoding="UTF-8"?>
<model unit="millimeter" xml:lang="en" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">
<metadata name="Application">Quillmere demo</metadata>
<resources><object id="1" type="model" name="mooring cap"><mesh><vertices>${vertices.join('')}</vertices><triangles>${triangles.join('')}</triangles></mesh></object></resources>
<build>${items.join('')}</build></model>`;
  const types =
    '<?xml version="1.0" encoding="UTF-8"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>';
  const relations =
    '<?xml version="1.0" encoding="UTF-8"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="model" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>';
  const encode = (text: string): Uint8Array => new TextEncoder().encode(text);
  return zipSync(
    { '[Content_Types].xml': encode(types), '_rels/.rels': encode(relations), '3D/3dmodel.model': encode(model) },
    { mtime: new Date(2026, 9, 1) },
  );
}

/** Metres, y up: a post with boards that point to the quays. */
function signPost({ Manifold }: ManifoldToplevel, stage: number): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const material = (name: string, colour: [number, number, number]): ReturnType<Document['createMaterial']> =>
    document.createMaterial(name).setBaseColorFactor([...colour, 1]);
  const steel = material('galvanised steel', [0.42, 0.45, 0.48]);
  const oak = material(stage >= 1 ? 'larch' : 'oak', stage >= 1 ? [0.45, 0.24, 0.1] : [0.3, 0.17, 0.08]);
  const meshOf = (name: string, body: Manifold, of: typeof steel): GltfMesh => {
    const { vertProperties, triVerts, numProp } = body.getMesh();
    const points = new Float32Array((3 * vertProperties.length) / numProp);
    for (let k = 0; k < points.length / 3; k++)
      points.set(vertProperties.subarray(k * numProp, k * numProp + 3), 3 * k);
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', document.createAccessor().setType('VEC3').setArray(points).setBuffer(buffer))
      .setIndices(document.createAccessor().setType('SCALAR').setArray(triVerts.slice()).setBuffer(buffer))
      .setMaterial(of);
    return document.createMesh(name).addPrimitive(primitive);
  };
  const post = meshOf('post', Manifold.cylinder(3.2, 0.06, 0.06, 24).rotate([-90, 0, 0]), steel);
  const foot = meshOf('foot', Manifold.cube([0.5, 0.04, 0.5]).translate([-0.25, 0, -0.25]), steel);
  const board = meshOf('board', Manifold.cube([1.1, 0.22, 0.03]), oak);
  const scene = document.createScene('sign post');
  scene.addChild(document.createNode('foot').setMesh(foot));
  scene.addChild(document.createNode('post').setMesh(post));
  const heights = stage >= 2 ? [2.9, 2.62, 2.34, 2.06] : [2.9, 2.62, 2.34];
  heights.forEach((up, k) => {
    const name = `board ${['to the ferry', 'to the shelter', 'to the slip', 'to the bicycles'][k]}`;
    // In the last one the boards were hung lower, so that they can be read from a wheelchair.
    const y = stage >= 2 ? up - 0.35 : up;
    scene.addChild(
      document
        .createNode(name)
        .setMesh(board)
        .setTranslation([k % 2 ? -1.05 : -0.05, y - 0.2, 0.06]),
    );
  });
  document.getRoot().setDefaultScene(scene);
  return new WebIO().writeBinary(document);
}
