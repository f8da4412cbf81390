import { useCallback, useEffect, useRef, useState } from 'react';
import type { StepOrder, StepReport } from '../../workers/intake-step.ts';

/** A step as it is seen: a picture to show, and what changed since the copy before it. */
export interface StepLook {
  readonly picture: string | undefined;
  readonly summary: string | undefined;
}

export interface Wanted {
  readonly path: string;
  readonly parent: string | null;
}

export interface StepLooks {
  readonly lookOf: (step: Wanted) => StepLook | undefined;
  /** Asks for a step that can be seen; it is looked into once. */
  readonly want: (step: Wanted) => void;
}

const keyOf = ({ path, parent }: Wanted): string => JSON.stringify([path, parent]);

/** A worker that looks into steps, one after the other, and what it was asked for. */
class Looker {
  readonly asked = new Set<string>();
  readonly addresses = new Set<string>();
  readonly worker = new Worker(new URL('../../workers/intake-step.ts', import.meta.url), { type: 'module' });

  addressOf(picture: StepReport['picture'], file: File | undefined): string | undefined {
    const blob = picture === 'itself' ? file : picture && new Blob([picture.svg], { type: 'image/svg+xml' });
    if (!blob) return undefined;
    const address = URL.createObjectURL(blob);
    this.addresses.add(address);
    return address;
  }

  end(): void {
    this.worker.terminate();
    for (const address of this.addresses) URL.revokeObjectURL(address);
  }
}

/** Pictures and summaries of steps. The worker begins with the first that is asked for. */
export function useStepLooks(files: ReadonlyMap<string, File>): StepLooks {
  const [looks, setLooks] = useState<ReadonlyMap<string, StepLook>>(new Map());
  const looker = useRef<Looker>(undefined);
  useEffect(
    () => () => {
      looker.current?.end();
      looker.current = undefined;
      setLooks(new Map());
    },
    [files],
  );
  const want = useCallback(
    (step: Wanted): void => {
      const own = looker.current ?? started();
      const key = keyOf(step);
      const here = files.get(step.path);
      if (!here || own.asked.has(key)) return;
      own.asked.add(key);
      const before = step.parent === null ? undefined : files.get(step.parent);
      own.worker.postMessage({ key, name: here.name, here, ...(before ? { before } : {}) } satisfies StepOrder);

      function started(): Looker {
        const next = new Looker();
        next.worker.onmessage = ({ data }: MessageEvent<StepReport>) => {
          const [path] = JSON.parse(data.key) as [string];
          const look = { picture: next.addressOf(data.picture, files.get(path)), summary: data.summary };
          setLooks((known) => new Map(known).set(data.key, look));
        };
        looker.current = next;
        return next;
      }
    },
    [files],
  );
  const lookOf = useCallback((step: Wanted) => looks.get(keyOf(step)), [looks]);
  return { lookOf, want };
}
