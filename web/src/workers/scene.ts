/** A web worker: fetches a scene and puts it in the order in which it is drawn, away from the page. */
import { unpackScene } from '@ovrel/core/scene';
import { arrange } from '../features/viewer/gl/arrange.ts';
import type { Drawable } from '../features/viewer/gl/renderer.ts';

export type SceneReport = { readonly drawable: Drawable } | { readonly sentence: string };

async function load(address: string): Promise<void> {
  const response = await fetch(address);
  if (!response.ok) {
    const said = (await response.json().catch(() => undefined)) as { detail?: string } | undefined;
    postMessage({ sentence: said?.detail ?? 'The drawing could not be fetched.' } satisfies SceneReport);
    return;
  }
  if (!response.body) throw new Error('The drawing came without content.');
  // eslint-disable-next-line no-restricted-syntax -- the browser's own name
  const unzipped = new Response(response.body.pipeThrough(new DecompressionStream('gzip')));
  const scene = unpackScene(new Uint8Array(await unzipped.arrayBuffer()));
  const arranged = arrange(scene);
  const drawable: Drawable = {
    head: scene.head,
    arranged,
    corners: scene.corners.slice(),
    triangleStyle: scene.triangleStyle.slice(),
    trianglePart: scene.trianglePart.slice(),
  };
  postMessage({ drawable } satisfies SceneReport, {
    transfer: [
      arranged.ends.buffer,
      arranged.lengths.buffer,
      arranged.style.buffer,
      arranged.part.buffer,
      arranged.along.buffer,
      drawable.corners.buffer,
      drawable.triangleStyle.buffer,
      drawable.trianglePart.buffer,
    ],
  });
}

addEventListener('message', ({ data }: MessageEvent<string>) => {
  load(data).catch((error: unknown) =>
    postMessage({ sentence: error instanceof Error ? error.message : String(error) } satisfies SceneReport),
  );
});
