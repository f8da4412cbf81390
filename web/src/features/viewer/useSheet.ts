import { useEffect, useState } from 'react';
import type { Version } from '../../contract/api.ts';
import type { Box } from './camera.ts';
import type { Sheet } from './paint.ts';

/** Loads the picture of a version. `box` is the part of the design that it shows; for plain pictures their own size counts. */
export function useSheet(version: Version | undefined, box: Box | undefined): { sheet: Sheet | undefined; broken: boolean } {
  const [loaded, setLoaded] = useState<{ id: string; image: HTMLImageElement | undefined }>();
  const id = version?.id;
  useEffect(() => {
    if (!id) return undefined;
    let stale = false;
    const image = new Image();
    image.decoding = 'async';
    image.onload = () => !stale && setLoaded({ id, image });
    image.onerror = () => !stale && setLoaded({ id, image: undefined });
    image.src = `/api/v1/versions/${id}/view`;
    return () => {
      stale = true;
    };
  }, [id]);
  const image = loaded?.id === id ? loaded?.image : undefined;
  const [sheet, setSheet] = useState<Sheet>();
  const [x0, y0, x1, y1] = box ?? [];
  useEffect(() => {
    setSheet(image && { image, box: x0 === undefined ? [0, 0, image.naturalWidth, image.naturalHeight] : [x0, y0 as number, x1 as number, y1 as number] });
  }, [image, x0, y0, x1, y1]);
  return { sheet: id ? sheet : undefined, broken: loaded !== undefined && loaded.id === id && !loaded.image };
}
