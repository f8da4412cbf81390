import { useEffect, useState } from 'react';
import type { SceneHead } from '@ovrel/core/scene';
import type { Version } from '../../contract/api.ts';
import type { SceneReport } from '../../workers/scene.ts';
import type { Box } from './camera.ts';
import { cardOfVersion } from '../cards.ts';
import { usePassword } from '../files/useUnlocked.ts';
import { SceneRenderer } from './gl/renderer.ts';
import type { Sheet } from './paint/paint.ts';
import { linkTo, type Input } from '../../contract/operation.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

export interface Loaded {
  readonly sheet: Sheet | undefined;
  /** Why there is no picture. */
  readonly broken: string | undefined;
  readonly head?: SceneHead | undefined;
}

/** Formats that no browser shows: Ovrel draws them from their parts. */
export const drawnFromParts = (version: Version | undefined): boolean => cardOfVersion(version)?.show === 'parts';

/** What of a version is shown in particular. */
interface Particular {
  /** One layer of a picture alone. */
  readonly layer?: number | undefined;
  /** A page as it is compared with one of another kind. */
  readonly drawn?: number | undefined;
}

/**
 * Loads the picture of a version. `box` is the part of the design that it shows; for plain pictures their own size
 * counts.
 */
export function useSheet(
  version: Version | undefined,
  box: Box | undefined,
  page: number | undefined,
  matrix?: readonly number[],
  { layer, drawn }: Particular = {},
): Loaded {
  const card = cardOfVersion(version);
  const laterPage = card?.pages !== undefined && page !== undefined && page > 0;
  const paged = card?.pages === 'sheets' || laterPage;
  // Of a large drawing the server says how it is to be drawn.
  const unsure = card?.crowd !== undefined && version !== undefined && version.size >= card.crowd.bytes;
  const { data: detail } = useAnswer(api.versions.get, unsure ? { versionId: version.id } : null, {
    revalidateOnFocus: false,
  });
  const scene = (drawn === undefined && drawnFromParts(version)) || (unsure && detail?.look.scene === true);
  const known = !unsure || drawn !== undefined || detail !== undefined;
  const image = useImage(
    scene || !known || (paged && page === undefined) ? undefined : version,
    queryFor({ layer, drawn, page: paged ? page : undefined }),
    box,
    matrix,
  );
  const parts = useScene(scene ? version : undefined, page);
  return scene ? parts : image;
}

type Query = NonNullable<Input<typeof api.versions.view>['query']>;

/** One layer; a page as it is compared with something of another kind; a page; or the whole picture. */
function queryFor({ layer, drawn, page }: Particular & { readonly page: number | undefined }): Query {
  if (layer !== undefined) return { layer };
  if (drawn !== undefined) return { page: drawn, drawn: 'yes' };
  return { page };
}

function useImage(
  version: Version | undefined,
  query: Query,
  box: Box | undefined,
  matrix: readonly number[] | undefined,
): Loaded {
  const password = usePassword(version);
  const [loaded, setLoaded] = useState<{ id: string; image: Shown | undefined }>();
  const id = version && linkTo(api.versions.view, { versionId: version.id, query });
  const versionId = version?.id;
  const { page } = query;
  const chequered = query.layer !== undefined;
  useEffect(() => {
    if (!id || versionId === undefined) return undefined;
    let stale = false;
    const image = new Image();
    image.decoding = 'async';
    image.onload = () =>
      !stale &&
      setLoaded({
        id,
        image: {
          source: chequered ? onChequers(image) : image,
          width: image.naturalWidth,
          height: image.naturalHeight,
        },
      });
    image.onerror = () => !stale && setLoaded({ id, image: undefined });
    let address: string | undefined;
    if (password === undefined) image.src = id;
    else
      void lockedPage(versionId, Number(page ?? 0), password).then((blob) => {
        if (stale) return;
        address = blob ? URL.createObjectURL(blob) : '';
        image.src = address;
      });
    return () => {
      stale = true;
      if (address) URL.revokeObjectURL(address);
    };
  }, [id, versionId, page, chequered, password]);
  const image = loaded?.id === id ? loaded?.image : undefined;
  const [sheet, setSheet] = useState<Sheet>();
  const [x0, y0, x1, y1] = box ?? [];
  useEffect(() => {
    if (!image) return setSheet(undefined);
    const itself: Box =
      x0 === undefined ? [0, 0, image.width, image.height] : [x0, y0 as number, x1 as number, y1 as number];
    setSheet({
      image: image.source,
      box: matrix ? throughBox(matrix, image.width, image.height) : itself,
      matrix,
    });
  }, [image, x0, y0, x1, y1, matrix]);
  const broken = loaded !== undefined && loaded.id === id && !loaded.image;
  return { sheet: id ? sheet : undefined, broken: broken ? 'your browser cannot draw it' : undefined };
}

/** A page of a document that is locked with a password; undefined where it cannot be drawn. */
async function lockedPage(versionId: string, page: number, password: string): Promise<Blob | undefined> {
  const answer = await fetch(linkTo(api.versions.unlockView, { versionId }), {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ password, page }),
  });
  return answer.ok ? answer.blob() : undefined;
}

interface Shown {
  readonly source: CanvasImageSource;
  readonly width: number;
  readonly height: number;
}

const CHEQUER = 8;

/** Nothing is painted where the chequers are seen. */
function onChequers(image: HTMLImageElement): CanvasImageSource {
  const canvas = document.createElement('canvas');
  const { naturalWidth: width, naturalHeight: height } = image;
  const c = canvas.getContext('2d');
  [canvas.width, canvas.height] = [width, height];
  if (!c) return image;
  const tile = document.createElement('canvas');
  const t = tile.getContext('2d');
  tile.width = 2 * CHEQUER;
  tile.height = 2 * CHEQUER;
  if (t) {
    t.fillStyle = '#f4f6f7';
    t.fillRect(0, 0, 2 * CHEQUER, 2 * CHEQUER);
    t.fillStyle = '#d5dbe0';
    t.fillRect(0, 0, CHEQUER, CHEQUER);
    t.fillRect(CHEQUER, CHEQUER, CHEQUER, CHEQUER);
  }
  c.fillStyle = c.createPattern(tile, 'repeat') ?? '#f4f6f7';
  c.fillRect(0, 0, width, height);
  c.drawImage(image, 0, 0);
  return canvas;
}

/** Bounds of a picture that is drawn through a matrix. */
export function throughBox(
  [a = 1, b = 0, c = 0, d = 1, e = 0, f = 0]: readonly number[],
  width: number,
  height: number,
  left = 0,
  top = 0,
): Box {
  const xs = [left, width].flatMap((x) => [top, height].map((y) => a * x + c * y + e));
  const ys = [left, width].flatMap((x) => [top, height].map((y) => b * x + d * y + f));
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

const nothing: Loaded = { sheet: undefined, broken: undefined };

function useScene(version: Version | undefined, page: number | undefined): Loaded {
  const [loaded, setLoaded] = useState<{ key: string; result: Loaded }>();
  const id = version?.id;
  const key = `${id ?? ''} ${page ?? ''}`;
  useEffect(() => {
    if (!id || page === undefined) return undefined;
    let renderer: SceneRenderer | undefined;
    const worker = new Worker(new URL('../../workers/scene.ts', import.meta.url), { type: 'module' });
    const done = (result: Loaded): void => setLoaded({ key, result });
    worker.onmessage = ({ data }: MessageEvent<SceneReport>) => {
      if ('sentence' in data) return done({ sheet: undefined, broken: data.sentence });
      try {
        renderer = new SceneRenderer(data.drawable);
        const { head } = data.drawable;
        done({ sheet: { renderer, box: head.box as unknown as Box }, broken: undefined, head });
      } catch (error) {
        done({ sheet: undefined, broken: error instanceof Error ? error.message : String(error) });
      }
    };
    worker.onerror = () => done({ sheet: undefined, broken: 'drawing it failed in your browser' });
    worker.postMessage(
      new URL(linkTo(api.versions.scene, { versionId: id, query: { page } }), window.location.href).href,
    );
    return () => {
      worker.terminate();
      renderer?.end();
    };
  }, [id, page, key]);
  return id && loaded?.key === key ? loaded.result : nothing;
}
