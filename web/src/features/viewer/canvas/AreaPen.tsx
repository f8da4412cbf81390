'use client';

import { useState } from 'react';
import type { Box } from '../camera.ts';

/** A sheet over the page on which a rectangle is drawn. */
export function AreaPen({
  toPage,
  onArea,
}: {
  toPage: (x: number, y: number) => readonly [number, number] | undefined;
  onArea: (area: Box) => void;
}): React.ReactNode {
  const [from, setFrom] = useState<readonly [number, number]>();
  const [to, setTo] = useState<readonly [number, number]>();
  const at = (e: React.PointerEvent): readonly [number, number] => [e.nativeEvent.offsetX, e.nativeEvent.offsetY];
  const finish = (e: React.PointerEvent): void => {
    const p = from && toPage(...from);
    const q = toPage(...at(e));
    if (p && q && (p[0] !== q[0] || p[1] !== q[1]))
      onArea([Math.min(p[0], q[0]), Math.min(p[1], q[1]), Math.max(p[0], q[0]), Math.max(p[1], q[1])]);
    setFrom(undefined);
  };
  return (
    <div
      className="ov-area"
      role="application"
      aria-label="Draw a rectangle around what you want to see"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        setFrom(at(e));
        setTo(at(e));
      }}
      onPointerMove={(e) => from && setTo(at(e))}
      onPointerUp={finish}
    >
      {from && to && (
        <div
          style={{
            left: Math.min(from[0], to[0]),
            top: Math.min(from[1], to[1]),
            width: Math.abs(from[0] - to[0]),
            height: Math.abs(from[1] - to[1]),
          }}
        />
      )}
    </div>
  );
}
