/** Draws models with three.js, as often as something changes and no more. Knows nothing of React. */
import type { Plane } from '@ovrel/core/space';
import {
  AmbientLight,
  BufferGeometry,
  DirectionalLight,
  LineSegments,
  Mesh,
  OrthographicCamera,
  PerspectiveCamera,
  Raycaster,
  Scene,
  Vector2,
  Vector3,
  WebGLRenderer,
  type Material,
} from 'three';
import { partOfTriangle, type Group } from './groups.ts';
import { boxNode, nodeOf, outlinesOf, spotsNode, type Side } from './nodes.ts';
import { directionOf, eyeOf, FIELD, type Box3, type Orbit } from './orbit.ts';
import type { Spot3 } from './ways.ts';

export interface Shown {
  readonly a: Side | undefined;
  readonly b: Side | undefined;
  /** Both in one view, or beside one another; at the curtain A is on the left of that share of the width. */
  readonly way: 'one' | 'beside' | { readonly curtain: number };
  readonly parallel: boolean;
  /** Where something is chosen. */
  readonly mark: Box3 | undefined;
  /** What lies on its other side is taken away. */
  readonly cut: Plane | undefined;
  /** Places that are measured from one to the next. */
  readonly spots: readonly Spot3[];
}

interface Hit {
  readonly side: 'a' | 'b';
  readonly group: Group;
  readonly triangle: number;
  readonly point: Spot3;
  /** To pixels of the canvas. */
  readonly project: (point: Spot3) => readonly [number, number];
}

/** Pixels within which a corner is meant. */
const SNAP = 10;

const isKept = ([x, y, z]: Spot3, cut: Plane | undefined): boolean =>
  !cut || cut.normal[0] * x + cut.normal[1] * y + cut.normal[2] * z <= cut.at;

export class SpaceStage {
  private readonly renderer: WebGLRenderer;
  private readonly sides = { a: new Scene(), b: new Scene() };
  private readonly perspective = new PerspectiveCamera(FIELD);
  private readonly flat = new OrthographicCamera();
  private readonly lamp = new DirectionalLight(0xffffff, 2.1);
  private readonly canvas: HTMLCanvasElement;
  private shown: Shown | undefined;
  private orbit: Orbit | undefined;
  private size = { width: 1, height: 1 };
  private frame = 0;
  private depth = 1;
  /** Called after every picture. */
  onDrawn: () => void = () => undefined;

  /** Throws where the browser gives no graphics. */
  constructor(canvas: HTMLCanvasElement) {
    this.canvas = canvas;
    this.renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true });
    this.renderer.setClearColor(0xffffff);
    this.renderer.autoClear = false;
    this.renderer.localClippingEnabled = true;
  }

  end(): void {
    cancelAnimationFrame(this.frame);
    this.empty();
    this.renderer.dispose();
  }

  resize(width: number, height: number): void {
    this.size = { width, height };
    this.renderer.setPixelRatio(Math.min(2, devicePixelRatio));
    this.renderer.setSize(width, height, false);
    this.ask();
  }

  look(orbit: Orbit): void {
    this.orbit = orbit;
    this.ask();
  }

  show(shown: Shown, depth: number): void {
    this.empty();
    this.shown = shown;
    this.depth = depth;
    const both = shown.way === 'one';
    for (const name of ['a', 'b'] as const) {
      const side = shown[name];
      if (!side) continue;
      const scene = both ? this.sides.b : this.sides[name];
      scene.add(nodeOf(side, shown.cut));
      if (shown.cut) scene.add(outlinesOf(side, shown.cut, depth));
    }
    for (const scene of Object.values(this.sides)) scene.add(new AmbientLight(0xffffff, 1.25));
    if (shown.mark) this.sides.b.add(boxNode(shown.mark));
    if (shown.spots.length > 0) this.sides.b.add(spotsNode(shown.spots, depth));
    this.ask();
  }

  /** The part under a place of the canvas, in CSS pixels. */
  pick(x: number, y: number): { readonly side: 'a' | 'b'; readonly part: number } | undefined {
    const hit = this.hit(x, y);
    return hit && { side: hit.side, part: partOfTriangle(hit.group, hit.triangle) };
  }

  /** The place under a place of the canvas; the corner of a face where one is near. */
  spot(x: number, y: number): Spot3 | undefined {
    const hit = this.hit(x, y);
    if (!hit) return undefined;
    const { group, triangle, point, project } = hit;
    const corners = [0, 1, 2].map((k): Spot3 => {
      const at = 3 * (group.triangles[3 * triangle + k] as number);
      return [group.points[at] as number, group.points[at + 1] as number, group.points[at + 2] as number];
    });
    const near = corners.find((corner) => Math.hypot(project(corner)[0] - x, project(corner)[1] - y) <= SNAP);
    return near ?? point;
  }

  /** Where a place of B is on the canvas; undefined where it is not in sight. */
  seenAt(point: Spot3): readonly [x: number, y: number] | undefined {
    const { shown } = this;
    if (!shown || !this.orbit || !isKept(point, shown.cut)) return undefined;
    const view = this.viewOf(shown, false);
    const camera = this.cameraFor(view.width / this.size.height, shown.parallel);
    const seen = new Vector3(...point).project(camera);
    if (Math.abs(seen.z) > 1) return undefined;
    const x = view.left + ((seen.x + 1) / 2) * view.width;
    return x < view.left || x > this.size.width ? undefined : [x, ((1 - seen.y) / 2) * this.size.height];
  }

  private hit(x: number, y: number): Hit | undefined {
    const { shown } = this;
    if (!shown || !this.orbit) return undefined;
    const isLeft = shown.way === 'one' ? false : x < this.borderOf(shown);
    const scene = shown.way === 'one' || !isLeft ? this.sides.b : this.sides.a;
    const view = this.viewOf(shown, isLeft);
    const ray = new Raycaster();
    const place = new Vector2(((x - view.left) / view.width) * 2 - 1, 1 - (y / this.size.height) * 2);
    const camera = this.cameraFor(view.width / this.size.height, shown.parallel);
    ray.setFromCamera(place, camera);
    const project = (point: Spot3): readonly [number, number] => {
      const seen = new Vector3(...point).project(camera);
      return [view.left + ((seen.x + 1) / 2) * view.width, ((1 - seen.y) / 2) * this.size.height];
    };
    for (const { object, faceIndex, point } of ray.intersectObjects(scene.children, true)) {
      const { group, side } = object.userData as { group?: Group; side?: 'a' | 'b' };
      const at: Spot3 = [point.x, point.y, point.z];
      if (group && side && faceIndex !== undefined && faceIndex !== null && isKept(at, shown.cut))
        return { side, group, triangle: faceIndex, point: at, project };
    }
    return undefined;
  }

  private ask(): void {
    cancelAnimationFrame(this.frame);
    this.frame = requestAnimationFrame(() => this.draw());
  }

  private draw(): void {
    const { shown, renderer } = this;
    if (!shown || !this.orbit) return;
    renderer.setScissorTest(false);
    renderer.clear();
    if (shown.way === 'one') this.drawSide(this.sides.b, this.viewOf(shown, false), shown.parallel);
    else {
      renderer.setScissorTest(true);
      for (const [scene, isLeft] of [
        [this.sides.a, true],
        [this.sides.b, false],
      ] as const) {
        const border = this.borderOf(shown);
        renderer.setScissor(isLeft ? 0 : border, 0, isLeft ? border : this.size.width - border, this.size.height);
        this.drawSide(scene, this.viewOf(shown, isLeft), shown.parallel);
      }
    }
    this.canvas.dataset['drawn'] = 'true';
    this.onDrawn();
  }

  private borderOf({ way }: Shown): number {
    return Math.round(this.size.width * (typeof way === 'object' ? way.curtain : 0.5));
  }

  private viewOf({ way }: Shown, isLeft: boolean): { readonly left: number; readonly width: number } {
    const { width } = this.size;
    if (way !== 'beside') return { left: 0, width };
    return { left: isLeft ? 0 : width / 2, width: width / 2 };
  }

  private drawSide(scene: Scene, { left, width }: { left: number; width: number }, parallel: boolean): void {
    const { height } = this.size;
    this.renderer.setViewport(left, 0, width, height);
    const camera = this.cameraFor(width / height, parallel);
    // It shines from where one looks.
    this.lamp.position.set(...directionOf(this.orbit as Orbit));
    scene.add(this.lamp);
    this.renderer.render(scene, camera);
  }

  private cameraFor(aspect: number, parallel: boolean): PerspectiveCamera | OrthographicCamera {
    const orbit = this.orbit as Orbit;
    const camera = parallel ? this.flat : this.perspective;
    const eye = eyeOf(orbit);
    camera.up.set(0, 0, 1);
    camera.position.set(...eye);
    camera.lookAt(...orbit.target);
    const reach = orbit.distance + 2 * this.depth;
    if (camera instanceof PerspectiveCamera) {
      camera.aspect = aspect;
      camera.near = Math.max(reach * 1e-4, orbit.distance - 2 * this.depth);
      camera.far = reach;
    } else {
      const half = orbit.distance * Math.tan((FIELD / 2) * (Math.PI / 180));
      [camera.left, camera.right, camera.top, camera.bottom] = [-half * aspect, half * aspect, half, -half];
      // What is between the eye and the model is seen, too: nothing is cut off in front.
      const [dx, dy, dz] = directionOf(orbit);
      camera.position.set(eye[0] + dx * this.depth, eye[1] + dy * this.depth, eye[2] + dz * this.depth);
      camera.near = 0;
      camera.far = reach + 2 * this.depth;
    }
    camera.updateProjectionMatrix();
    camera.updateMatrixWorld();
    return camera;
  }

  private empty(): void {
    for (const scene of Object.values(this.sides)) {
      scene.traverse((node) => {
        if (!(node instanceof Mesh || node instanceof LineSegments)) return;
        (node.geometry as BufferGeometry).dispose();
        (node.material as Material).dispose();
      });
      scene.clear();
    }
  }
}
