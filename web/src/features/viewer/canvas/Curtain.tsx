'use client';

/** The edge between A and B, which is drawn aside. */
export function Curtain({
  at,
  width,
  onMove,
}: {
  at: number;
  width: number;
  onMove: (at: number) => void;
}): React.ReactNode {
  const move = (x: number): void => onMove(Math.min(Math.max(x, 0.02), 0.98));
  return (
    <div
      className="ov-curtain"
      style={{ left: at * width }}
      role="slider"
      tabIndex={0}
      aria-label="Curtain between A and B"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(at * 100)}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) =>
        e.currentTarget.hasPointerCapture(e.pointerId) &&
        move((e.clientX - (e.currentTarget.parentElement?.getBoundingClientRect().left ?? 0)) / width)
      }
      onKeyDown={(e) => {
        const by = { ArrowLeft: -0.03, ArrowRight: 0.03 }[e.key] ?? 0;
        if (by) {
          e.preventDefault();
          e.stopPropagation();
          move(at + by);
        }
      }}
    />
  );
}
