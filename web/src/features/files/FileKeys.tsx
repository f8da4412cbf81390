'use client';

/** The keys of the file page. */
import { DayDialog } from '../calendar/DayDialog.tsx';
import { hasThumbnail } from '../cards.ts';
import { Film } from '../film/Film.tsx';
import { useKeys } from '../frame/keys.tsx';
import { BranchOffDialog } from './BranchOffDialog.tsx';
import { BringForwardDialog } from './BringForwardDialog.tsx';
import { CheckInDialog } from './CheckInDialog.tsx';
import { CompareWithDialog } from './CompareWithDialog.tsx';
import { TitleDialog } from './TitleDialog.tsx';
import { useFileActs } from './state/acts.tsx';
import { useCompared } from './state/compared.tsx';
import { useDrawn } from './state/drawn.tsx';
import { useRemarks } from './state/remarks.tsx';
import { useShown } from './state/shown.tsx';

export function FileKeys(): React.ReactNode {
  const { b, askedFor, newest, other, columns, comparing, move, goToLine, beside, sittingOf } = useShown();
  const { stepChange } = useCompared();
  const { canPoint, togglePointing } = useRemarks();
  const drawn = useDrawn();
  const { mayCheckIn, mayBringForward, open } = useFileActs();
  const step = (by: number, each = false): void => {
    const next = beside(askedFor.b, by, each)?.id;
    if (next !== undefined) move(comparing ? { b: next } : { a: next, b: next });
  };
  const stepA = (by: number): void => {
    const next = other ? undefined : beside(askedFor.a, by)?.id;
    if (next !== undefined) move({ a: next });
  };
  const compareBefore = (): void => {
    const [first] = sittingOf(askedFor.b);
    const before = first && beside(first.id, -1, true)?.id;
    if (before !== undefined) move({ a: before });
  };
  const besideLine = (by: number): void => {
    const { lines, line } = columns;
    const next = lines[lines.findIndex((l) => l.id === line) + by];
    if (next) goToLine(next.id);
  };
  useKeys([
    { key: 'ArrowLeft', says: 'Version before (marker B while comparing)', run: () => step(-1) },
    { key: 'ArrowRight', says: 'Version after (marker B while comparing)', run: () => step(1) },
    { key: 'Alt+ArrowLeft', says: 'Save before, within a sitting', run: () => step(-1, true) },
    { key: 'Alt+ArrowRight', says: 'Save after, within a sitting', run: () => step(1, true) },
    { key: 'Shift+ArrowLeft', says: 'Marker A one version back', run: () => stepA(-1) },
    { key: 'Shift+ArrowRight', says: 'Marker A one version on', run: () => stepA(1) },
    { key: 'c', says: 'Compare with the version before', run: compareBefore },
    { key: 'y', says: 'The day it was right: versions by day', run: () => open(<DayDialog />) },
    { key: 'o', says: 'Compare with another file', run: () => open(<CompareWithDialog />) },
    { key: 'h', says: 'Who drew what', run: drawn.toggle },
    ...(hasThumbnail(b.format) ? [{ key: 'v', says: 'Through time: step and play', run: () => open(<Film />) }] : []),
    ...(canPoint ? [{ key: 'm', says: 'Comment on a place', run: togglePointing }] : []),
    { key: 'Escape', says: 'Leave the comparison', run: () => move({ a: b.id }) },
    { key: 'n', says: 'Next change', run: () => stepChange(1) },
    { key: 'p', says: 'Previous change', run: () => stepChange(-1) },
    ...(mayCheckIn ? [{ key: 'i', says: 'Check in a new version', run: () => open(<CheckInDialog />) }] : []),
    ...(mayCheckIn ? [{ key: 'b', says: 'Branch off from this version', run: () => open(<BranchOffDialog />) }] : []),
    ...(mayCheckIn ? [{ key: 'k', says: 'Title of this version', run: () => open(<TitleDialog />) }] : []),
    ...(columns.lines.length > 1
      ? [
          { key: 'ArrowDown', says: 'Next line', run: () => besideLine(1) },
          { key: 'ArrowUp', says: 'Line before', run: () => besideLine(-1) },
        ]
      : []),
    ...(mayBringForward && b.id !== newest.id
      ? [{ key: 'w', says: 'Bring this version forward', run: () => open(<BringForwardDialog />) }]
      : []),
  ]);
  return null;
}
