'use client';

/** A few pixels of A and B under the pointer, large, with their values. */
import { useEffect, useRef } from 'react';
import { deltaE, labOf } from '@ovrel/core/regions';
import type { Sheet } from './paint/paint.ts';

interface Props {
  readonly a: Sheet | undefined;
  readonly b: Sheet | undefined;
  /** Place on the page. */
  readonly at: readonly [number, number];
}

/** Pixels across. */
const ACROSS = 15;
const ZOOM = 9;

export function Loupe({ a, b, at: [x, y] }: Props): React.ReactNode {
  const left = useRef<HTMLCanvasElement>(null);
  const right = useRef<HTMLCanvasElement>(null);
  const words = useRef<HTMLParagraphElement>(null);
  useEffect(() => {
    const values = [
      [left.current, a],
      [right.current, b],
    ].map(([canvas, sheet]) =>
      canvas && sheet ? enlarged(canvas as HTMLCanvasElement, sheet as Sheet, x, y) : undefined,
    );
    const [va, vb] = values;
    if (!words.current) return;
    const say = (v: readonly number[] | undefined): string =>
      v
        ? `#${v
            .slice(0, 3)
            .map((n) => n.toString(16).padStart(2, '0'))
            .join('')}`
        : '–';
    const difference =
      va && vb
        ? deltaE(
            ...(labOf(va[0] as number, va[1] as number, va[2] as number) as unknown as [number, number, number]),
            ...(labOf(vb[0] as number, vb[1] as number, vb[2] as number) as unknown as [number, number, number]),
          )
        : undefined;
    words.current.textContent = a
      ? `A ${say(va)}  B ${say(vb)}  difference ${difference === undefined ? '–' : difference.toFixed(1)}`
      : say(vb);
  }, [a, b, x, y]);
  return (
    <div className="ov-loupe" role="group" aria-label="Magnifier">
      <div>
        {a && <canvas ref={left} width={ACROSS * ZOOM} height={ACROSS * ZOOM} aria-label="A, enlarged" />}
        <canvas ref={right} width={ACROSS * ZOOM} height={ACROSS * ZOOM} aria-label={a ? 'B, enlarged' : 'Enlarged'} />
      </div>
      <p className="ov-mono" ref={words} />
      <p className="ov-quiet ov-mono">
        {Math.floor(x)}, {Math.floor(y)} px
      </p>
    </div>
  );
}

/** Draws what lies around a place; gives the value of the pixel in the middle. */
function enlarged(
  canvas: HTMLCanvasElement,
  { image, box, matrix }: Sheet,
  x: number,
  y: number,
): readonly number[] | undefined {
  const c = canvas.getContext('2d', { willReadFrequently: true });
  if (!c || !image) return undefined;
  const half = Math.floor(ACROSS / 2);
  const px = Math.floor(x);
  const py = Math.floor(y);
  c.setTransform(1, 0, 0, 1, 0, 0);
  c.fillStyle = '#ffffff';
  c.fillRect(0, 0, canvas.width, canvas.height);
  c.imageSmoothingEnabled = false;
  c.setTransform(ZOOM, 0, 0, ZOOM, (half - px) * ZOOM, (half - py) * ZOOM);
  if (matrix) {
    c.transform(...(matrix as [number, number, number, number, number, number]));
    c.drawImage(image, 0, 0);
  } else c.drawImage(image, box[0], box[1], box[2] - box[0], box[3] - box[1]);
  c.setTransform(1, 0, 0, 1, 0, 0);
  const value = [...c.getImageData(half * ZOOM + 4, half * ZOOM + 4, 1, 1).data];
  c.strokeStyle = '#17212b';
  c.strokeRect(half * ZOOM - 0.5, half * ZOOM - 0.5, ZOOM + 1, ZOOM + 1);
  return value;
}
