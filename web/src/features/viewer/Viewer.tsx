'use client';

/** The middle of the file page: chooses how a version, or two, can be shown. */
import type { Change } from '@ovrel/core/contract';
import type { ComparisonResponse, FileEntry, Version, VersionDetail } from '../../contract/api.ts';
import { isPicture } from '../cards.ts';
import type { Box } from './camera.ts';
import { BytesView } from './BytesView.tsx';
import { CanvasView } from './CanvasView.tsx';
import type { Look } from './looks.ts';
import type { Pin } from './pins.ts';
import { TextView } from './TextView.tsx';
import type { Difference } from './useDifference.ts';

export interface ViewerProps {
  readonly file: FileEntry;
  readonly a: Version;
  readonly b: Version;
  readonly comparing: boolean;
  /** Shown instead, where the document is locked. */
  readonly locked: React.ReactNode;
  /** The comparison cannot be made; why is said beside the viewer. */
  readonly failed: boolean;
  readonly detail: VersionDetail | undefined;
  /** Of two pictures: how much their squares differ. */
  readonly difference: Difference | undefined;
  readonly result: ComparisonResponse | undefined;
  readonly shown: readonly Change[];
  readonly selected: string | undefined;
  readonly onSelect: (id: string) => void;
  readonly look: Look;
  readonly onLook: (look: Look) => void;
  readonly onStepChange: (by: number) => void;
  /** Part of the page that the list is limited to, in page coordinates. */
  readonly area: Box | undefined;
  /** True while such a part is being drawn. */
  readonly drawing: boolean;
  readonly onArea: (area: Box) => void;
  /** True where one cause is looked into: the view goes to what it touches. */
  readonly focus: boolean;
  readonly pins: readonly Pin[];
  readonly onPin: (id: string) => void;
  /** A page that was asked for from outside; anew each time. */
  readonly page: { readonly name: string } | undefined;
  /** True while a place for a comment is being chosen. */
  readonly pointing: boolean;
  readonly onPlace: (page: string, x: number, y: number, reach: number) => void;
  /** A file hangs over the page. */
  readonly over: boolean;
}

/** Larger texts are offered for download only. */
const LONGEST_TEXT = 4_000_000;

export function Viewer(props: ViewerProps): React.ReactNode {
  return (
    <section className="ov-viewer" aria-label="Viewer">
      {props.locked ?? <Body {...props} />}
      {props.over && (
        <div className="ov-waiting">
          <div>
            <strong>Let go to check it in</strong> as the next version of {props.file.name}.
          </div>
        </div>
      )}
    </section>
  );
}

function Body(props: ViewerProps): React.ReactNode {
  const { a, b, comparing, detail, result } = props;
  const level = comparing ? result?.comparison.level : detail?.look.level;
  // B is there to be looked at while it is still being compared.
  const waiting =
    comparing && !result && !props.failed && detail !== undefined && (detail.look.level === 'parts' || isPicture(b));
  if (
    waiting ||
    level === 'parts' ||
    (comparing && result?.picture.drawn) ||
    (level !== undefined && isPicture(b) && (!comparing || isPicture(a)))
  )
    return <CanvasView {...props} comparing={comparing && !waiting} waiting={waiting} />;
  if (level === undefined)
    return props.failed ? null : (
      <Waiting>{comparing ? `Comparing v${a.number} with v${b.number} …` : `Opening v${b.number} …`}</Waiting>
    );
  return level === 'text' && (comparing ? Math.max(a.size, b.size) : b.size) <= LONGEST_TEXT ? (
    <TextView {...props} />
  ) : (
    <BytesView {...props} />
  );
}

function Waiting({ children }: { children: React.ReactNode }): React.ReactNode {
  return (
    <div className="ov-waiting" role="status">
      <div>{children}</div>
    </div>
  );
}
