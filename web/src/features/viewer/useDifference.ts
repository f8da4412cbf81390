import { useEffect, useMemo, useState } from 'react';
import useSWR from 'swr';
import type { Change } from '@ovrel/core/contract';
import { CELL, regionsOf, THRESHOLD, unpackMap, type MapForRegions } from '@ovrel/core/regions';
import type { ComparisonResponse, Version } from '../../contract/api.ts';
import { heatColour } from './looks.ts';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';

export interface PixelDifference {
  readonly map: MapForRegions;
  readonly width: number;
  readonly height: number;
}

async function fetchMap(address: string): Promise<Uint8Array> {
  const answer = await fetch(address);
  if (!answer.ok) throw new Error('The differences could not be fetched.');
  return new Uint8Array(await answer.arrayBuffer());
}

/** How much each square of two pictures differs; undefined for anything else, and until it is here. */
export function useDifference(
  a: Version,
  b: Version,
  compared: ComparisonResponse | undefined,
): PixelDifference | undefined {
  const laid = compared?.comparison.level === 'pixels' ? compared.picture.laid : undefined;
  const { data } = useSWR<Uint8Array, Error>(
    laid ? linkTo(api.comparisons.difference, { query: { a: a.id, b: b.id } }) : null,
    fetchMap,
    {
      revalidateOnFocus: false,
      shouldRetryOnError: false,
    },
  );
  return useMemo(() => {
    if (!laid || data?.length !== 2 * laid.columns * laid.rows) return undefined;
    const [width = 0, height = 0] = laid.sizeB;
    return { map: unpackMap(data, laid.columns, laid.rows, laid.noise), width, height };
  }, [laid, data]);
}

/** Places that differ by more than a threshold of a person's own; those of the comparison at the usual one. */
export function usePlaces(
  compared: ComparisonResponse | undefined,
  difference: PixelDifference | undefined,
  threshold: number,
): readonly Change[] | undefined {
  return useMemo(() => {
    if (!compared || !difference || threshold === THRESHOLD) return compared?.comparison.changes;
    return placesAt(difference, threshold, compared.comparison.changes);
  }, [compared, difference, threshold]);
}

/** Places that the comparison knows keep their names and what was done to them. */
function placesAt({ map, width, height }: PixelDifference, threshold: number, known: readonly Change[]): Change[] {
  const { regions } = regionsOf(map, { width, height }, threshold);
  const free = new Set(known.filter((c) => c.part.kind === 'place'));
  // What is said of layers is no matter of how much a place differs.
  return [
    ...known.filter((c) => c.part.kind !== 'place'),
    ...regions.map((r, k): Change => {
      const same = [...free].find(
        (c) =>
          c.boxB &&
          Math.min(c.boxB[2], r.box[2]) > Math.max(c.boxB[0], r.box[0]) &&
          Math.min(c.boxB[3], r.box[3]) > Math.max(c.boxB[1], r.box[1]),
      );
      const box: NonNullable<Change['boxB']> = [r.box[0], r.box[1], r.box[2], r.box[3]];
      const said = {
        aspect: 'image' as const,
        property: 'difference',
        from: '0',
        to: `${r.mean.toFixed(1)} on average, ${r.largest.toFixed(1)} at most, over ${r.area.toLocaleString('en')} px`,
      };
      if (same) {
        free.delete(same);
        return {
          ...same,
          boxB: same.kind === 'removed' ? null : box,
          what: [...same.what.filter((w) => w.property !== 'difference'), said],
        };
      }
      const part = { key: null, kind: 'place', name: `at (${box[0]}, ${box[1]})`, category: '', page: 'Picture' };
      return {
        id: `t${k}`,
        kind: 'changed',
        part,
        partA: part,
        partB: part,
        what: [said],
        boxA: box,
        boxB: box,
        size: Math.hypot(box[2] - box[0], box[3] - box[1]),
      };
    }),
  ];
}

/** The differences as an image with a pixel a square; undefined until it is drawn. */
export function useHeat(difference: PixelDifference | undefined, wanted: boolean): CanvasImageSource | undefined {
  const [image, setImage] = useState<{ of: PixelDifference; bitmap: ImageBitmap }>();
  useEffect(() => {
    if (!wanted || !difference) return undefined;
    let stale = false;
    const { columns, rows, plain } = difference.map;
    const pixels = new ImageData(columns, rows);
    const table = Array.from({ length: 256 }, (_, v) => heatColour(v * 0.4));
    for (let i = 0; i < plain.length; i++) {
      const [r, g, b] = table[Math.min(255, Math.round((plain[i] as number) / 0.4))] as readonly [
        number,
        number,
        number,
      ];
      pixels.data.set([r, g, b, 255], 4 * i);
    }
    // The last squares reach beyond the picture.
    void createImageBitmap(pixels, 0, 0, columns, rows).then((bitmap) => {
      if (!stale) setImage({ of: difference, bitmap });
    });
    return () => {
      stale = true;
    };
  }, [difference, wanted]);
  return image && image.of === difference ? image.bitmap : undefined;
}

/** Difference of the square at a place, as seen. */
export function differenceAt({ map }: PixelDifference, x: number, y: number): number | undefined {
  const column = Math.floor(x / CELL);
  const row = Math.floor(y / CELL);
  return column >= 0 && row >= 0 && column < map.columns && row < map.rows
    ? map.plain[row * map.columns + column]
    : undefined;
}
