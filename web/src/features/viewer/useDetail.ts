import { useEffect, useState } from 'react';
import type { Version } from '../../contract/api.ts';
import type { Box, Camera } from './camera.ts';
import { cardOfVersion } from '../cards.ts';
import type { Sheet } from './paint/paint.ts';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';

/** Longer side of the picture of a page, and of a part of it at most, in pixels. */
const PAGE = 2800;
const MOST = 3000;
/** The page as it is will do up to this enlargement of its pixels. */
const ENOUGH = 1.2;
/** Steps of the page to which what is seen is rounded, so that small moves need no new drawing. */
const STEPS = 64;

/** What of a page is seen, and how finely that has to be drawn; undefined where the page as it is will do. */
export function finer(
  page: Box,
  camera: Camera,
  view: { readonly width: number; readonly height: number },
  ratio: number,
): { readonly box: Box; readonly side: number } | undefined {
  const w = page[2] - page[0];
  const h = page[3] - page[1];
  const longest = Math.max(w, h);
  const own = PAGE / longest;
  const wanted = camera.scale * ratio;
  const step = longest / STEPS;
  if (wanted <= own * ENOUGH) return undefined;
  const from = [(0 - camera.x) / camera.scale, (0 - camera.y) / camera.scale] as const;
  const to = [(view.width - camera.x) / camera.scale, (view.height - camera.y) / camera.scale] as const;
  const box: Box = [
    Math.max(page[0], Math.floor(from[0] / step) * step),
    Math.max(page[1], Math.floor(from[1] / step) * step),
    Math.min(page[2], Math.ceil(to[0] / step) * step),
    Math.min(page[3], Math.ceil(to[1] / step) * step),
  ];
  if (box[2] <= box[0] || box[3] <= box[1]) return undefined;
  return { box, side: Math.min(MOST, Math.max(64, Math.ceil(Math.max(box[2] - box[0], box[3] - box[1]) * wanted))) };
}

/**
 * The sheet of a PDF document, with what is seen of it drawn as finely as the screen shows it. `rest`: where the view
 * stands.
 */
export function useDetail(
  version: Version | undefined,
  page: number | undefined,
  sheet: Sheet | undefined,
  rest: Camera | undefined,
  view: { readonly width: number; readonly height: number } | undefined,
): Sheet | undefined {
  const wanted =
    cardOfVersion(version)?.fine && page !== undefined && sheet?.image && !sheet.matrix && rest && view
      ? finer(sheet.box, rest, view, window.devicePixelRatio || 1)
      : undefined;
  const address =
    wanted && version
      ? linkTo(api.versions.view, {
          versionId: version.id,
          query: { page, box: wanted.box.map((v) => Number(v.toFixed(3))).join(','), side: wanted.side },
        })
      : undefined;
  const [loaded, setLoaded] = useState<{ address: string; image: HTMLImageElement; box: Box }>();
  useEffect(() => {
    if (!address) return undefined;
    let stale = false;
    const image = new Image();
    const box = new URLSearchParams(address.slice(address.indexOf('?')))
      .get('box')
      ?.split(',')
      .map(Number) as unknown as Box;
    image.onload = () => !stale && setLoaded({ address, image, box });
    image.src = address;
    return () => {
      stale = true;
    };
  }, [address]);
  const [detailed, setDetailed] = useState<Sheet>();
  const of = version?.id;
  useEffect(() => {
    // What was drawn finely stays until something else is: it still fits where it is.
    const own =
      loaded && of && loaded.address.includes(`/${of}/`) && loaded.address.includes(`?page=${page}&`)
        ? loaded
        : undefined;
    setDetailed(sheet && own ? { ...sheet, detail: { image: own.image, box: own.box } } : sheet);
  }, [sheet, loaded, of, page]);
  return detailed &&
    sheet &&
    detailed.image === sheet.image &&
    detailed.renderer === sheet.renderer &&
    detailed.box === sheet.box
    ? detailed
    : sheet;
}
