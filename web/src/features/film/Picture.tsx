import { useEffect, useRef } from 'react';
import { colourOf, paintFrame } from './paint.ts';
import type { Frame } from './useFrames.ts';

interface PictureProps {
  /** Undefined while it is on its way; null where there is none. */
  readonly now: Frame | undefined;
  readonly before: Frame | undefined;
  readonly name: string;
}

/** The picture of a version, what changed since the one before lightly marked. */
export function Picture({ now, before, name }: PictureProps): React.ReactNode {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!canvas.current || !now) return;
    paintFrame(canvas.current, now, before, colourOf('--ov-plum'));
    canvas.current.dataset['shows'] = name;
  }, [now, before, name]);
  return (
    <div className="ov-film-picture" aria-busy={now === undefined}>
      <canvas ref={canvas} role="img" aria-label={`Picture of ${name}`} hidden={!now} />
      {now === undefined && <p>Drawing {name} …</p>}
      {now === null && <p>{name} has no picture.</p>}
    </div>
  );
}
