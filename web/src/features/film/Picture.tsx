import { useEffect, useRef } from 'react';
import type { Frame } from './usePictures.ts';

interface PictureProps {
  /** Undefined while it is on its way; null where there is none. */
  readonly picture: Frame | undefined;
  readonly name: string;
}

/** The picture of a version. */
export function Picture({ picture, name }: PictureProps): React.ReactNode {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!canvas.current || !picture) return;
    canvas.current.width = picture.width;
    canvas.current.height = picture.height;
    canvas.current.getContext('2d')?.drawImage(picture, 0, 0);
    canvas.current.dataset['shows'] = name;
  }, [picture, name]);
  return (
    <div className="ov-film-picture" aria-busy={picture === undefined}>
      <canvas ref={canvas} role="img" aria-label={`Picture of ${name}`} hidden={!picture} />
      {picture === undefined && <p>Drawing {name} …</p>}
      {picture === null && <p>{name} has no picture.</p>}
    </div>
  );
}
