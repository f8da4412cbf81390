'use client';

/** The middle of the file page: chooses how a version, or two, can be shown. */
import { lazy, Suspense } from 'react';
import { isPicture } from '../cards.ts';
import { UnlockForm } from '../files/UnlockForm.tsx';
import { BytesView } from './BytesView.tsx';
import { CanvasView } from './canvas/CanvasView.tsx';
import { useView, type View } from './state.ts';
import { TextView } from './TextView.tsx';

/** What shows models is loaded with the first one. */
const SpaceView = lazy(async () => ({ default: (await import('./space/SpaceView.tsx')).SpaceView }));

/** What shows tables, too. */
const TableView = lazy(async () => ({ default: (await import('./table/TableView.tsx')).TableView }));

/** Larger texts are offered for download only. */
const LONGEST_TEXT = 4_000_000;

/** `over`: a file hangs over the page. */
export function Viewer({ over }: { readonly over: boolean }): React.ReactNode {
  const view = useView();
  return (
    <section className="ov-viewer" aria-label="Viewer">
      {view.locked.length > 0 ? <UnlockForm versions={view.locked} onGive={view.unlock} /> : <Body view={view} />}
      {over && (
        <div className="ov-waiting">
          <div>
            <strong>Let go to check it in</strong> as the next version of {view.file.name}.
          </div>
        </div>
      )}
    </section>
  );
}

type Way = 'canvas' | 'space' | 'table' | 'text' | 'bytes';

/** How it is shown; undefined until that is known. */
function wayOf({ a, b, comparing, detail, result, waiting }: View): Way | undefined {
  const level = comparing ? result?.comparison.level : detail?.look.level;
  const drawn = comparing && result?.picture.drawn;
  if (level === 'solid' || (waiting && detail?.look.level === 'solid')) return 'space';
  if (level === 'cells' || (waiting && detail?.look.level === 'cells')) return 'table';
  if (waiting || drawn || level === 'parts') return 'canvas';
  if (level === undefined) return undefined;
  if (isPicture(b) && (!comparing || isPicture(a))) return 'canvas';
  const longest = comparing ? Math.max(a.size, b.size) : b.size;
  return level === 'text' && longest <= LONGEST_TEXT ? 'text' : 'bytes';
}

function Body({ view }: { readonly view: View }): React.ReactNode {
  const { a, b, comparing, failed } = view;
  const way = wayOf(view);
  if (way === 'canvas') return <CanvasView />;
  if (way === 'space')
    return (
      <Suspense fallback={null}>
        <SpaceView />
      </Suspense>
    );
  if (way === 'table')
    return (
      <Suspense fallback={null}>
        <TableView />
      </Suspense>
    );
  if (way === 'text') return <TextView />;
  if (way === 'bytes') return <BytesView />;
  if (failed) return null;
  return (
    <div className="ov-waiting" role="status">
      <div>{comparing ? `Comparing v${a.number} with v${b.number} …` : `Opening v${b.number} …`}</div>
    </div>
  );
}
