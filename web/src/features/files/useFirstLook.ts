import { useEffect, useState } from 'react';
import type { Version } from '../../contract/api.ts';
import { isPicture } from '../cards.ts';
import type { FirstLookOrder, FirstLookReport } from '../../workers/first-look.ts';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';

/** Comparisons that are there sooner need no first look, in milliseconds. */
const PATIENCE = 400;

/** What can already be seen while two pictures are being compared; undefined when there is nothing to say yet. */
export function useFirstLook(a: Version, b: Version, waiting: boolean): FirstLookReport | undefined {
  const key = `${a.id} ${b.id}`;
  const wanted = waiting && isPicture(a) && isPicture(b);
  const [seen, setSeen] = useState<{ key: string; report: FirstLookReport }>();
  useEffect(() => {
    if (!wanted) return undefined;
    let worker: Worker | undefined;
    const timer = setTimeout(() => {
      worker = new Worker(new URL('../../workers/first-look.ts', import.meta.url), { type: 'module' });
      worker.onmessage = ({ data }: MessageEvent<FirstLookReport>) => setSeen({ key, report: data });
      const address = (id: string): string =>
        new URL(linkTo(api.versions.view, { versionId: id }), window.location.href).href;
      worker.postMessage({ a: address(a.id), b: address(b.id) } satisfies FirstLookOrder);
    }, PATIENCE);
    return () => {
      clearTimeout(timer);
      worker?.terminate();
    };
  }, [wanted, key, a.id, b.id]);
  return wanted && seen?.key === key ? seen.report : undefined;
}
