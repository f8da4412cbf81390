'use client';

/** The file page: About or What changed, the viewer, and the rail. The address bar holds what is shown. */
import dynamic from 'next/dynamic';
import { useRouter, useSearchParams } from 'next/navigation';
import { useCallback, useEffect, useMemo, useState } from 'react';
import useSWR from 'swr';
import type { ComparisonResponse, FileEntry, RailColumns, Version, VersionDetail } from '../../contract/api.ts';
import { isPicture } from '../cards.ts';
import { call, sentenceOf } from '../api/client.ts';
import { useKeys } from '../frame/keys.tsx';
import { marksOf } from '../rail/layout.ts';
import { Holder, useStanding, type Rights } from '../desk/Holder.tsx';
import { Comments, type Target } from '../comments/Comments.tsx';
import { useComments } from '../comments/useComments.ts';
import { References, useReferences } from '../references/References.tsx';
import { useLive } from '../live/useLive.ts';
import { Rail } from '../rail/Rail.tsx';
import type { Look } from '../viewer/looks.ts';
import { About } from './About.tsx';
import { BringForwardDialog } from './BringForwardDialog.tsx';
import { CheckInDialog } from './CheckInDialog.tsx';
import { CompareWithDialog } from './CompareWithDialog.tsx';
import { lineOf, numbersOf, railKey } from '../../contract/pages.ts';
import { disregard, emptyFilter, useFiltered, type Filter } from './filter.ts';
import { useIgnore } from './useIgnore.ts';
import { useOther } from './useOther.ts';
import { Passwords, useUnlocked } from './useUnlocked.ts';
import { UnlockForm } from './UnlockForm.tsx';
import { useWho } from './useWho.ts';
import { refreshVersions, useRail, useVersion } from './versions.ts';
import { WhatChanged } from './WhatChanged.tsx';
import { THRESHOLD } from '@ovrel/core/regions';
import { useDifference, usePlaces } from '../viewer/useDifference.ts';

const Viewer = dynamic(() => import('../viewer/Viewer.tsx').then((m) => m.Viewer), {
  ssr: false,
  loading: () => <div className="ov-viewer" />,
});

const nothingLeft = { changes: [], causes: [], ignored: 0 };

interface Props {
  readonly file: FileEntry;
  readonly rail: RailColumns;
  /** The line that the rail and the initial versions are of. */
  readonly initialLine: number;
  /** The versions that the address asks for, and the newest. */
  readonly initial: readonly Version[];
  readonly mayCheckIn: boolean;
  readonly mayBringForward: boolean;
  readonly rights: Rights;
}

export interface Message {
  readonly problem: boolean;
  readonly text: string;
}

export function FilePage({
  file,
  rail,
  initialLine,
  initial,
  mayCheckIn: allowed,
  mayBringForward,
  rights,
}: Props): React.ReactNode {
  const router = useRouter();
  const { query, write } = useQuery();
  const line = lineOf((name) => query.get(name), rail.lines.length + 1);
  const columns = useRail(file.id, line, rail, initialLine);
  const marks = useMemo(() => marksOf(columns), [columns]);
  const state = useAddress(query, write, marks[0]?.number ?? 1, marks.at(-1)?.number ?? 1, line);
  const { look, set } = state;
  const { a: ownA, b, newest } = useShown(file.id, state, line === initialLine ? initial : none);
  const { other, problem: otherProblem } = useOther(state.other);
  const a = other?.version ?? ownA;
  const comparing = a.id !== b.id;
  const { standing, refresh } = useStanding(file.id);
  const here = useComments(file.id, b.id);
  const { references, refresh: refreshReferences } = useReferences(b.id);
  const mayCheckIn = allowed && !file.deletedIn;
  useLive({ file: file.id }, (event) => {
    // A check-in gives the file back, too.
    void refresh();
    if (!event || event.kind === 'comment') void here.refresh();
    if (!event || event.kind === 'version') void refreshVersions(file.id);
    if (!event || event.kind === 'files') router.refresh();
  });
  const [dialog, setDialog] = useState<
    { kind: 'check-in'; dropped?: File } | { kind: 'bring-forward' } | { kind: 'compare-with' }
  >();
  const [message, setMessage] = useState<Message>();
  const [over, setOver] = useState(false);
  const [filter, setFilter] = useState<Filter>(emptyFilter);
  const [selected, setSelected] = useState<string>();
  const asked = useSWR<VersionDetail>(`/versions/${b.id}`, (p: string) => call(p), {
    revalidateOnFocus: false,
    keepPreviousData: false,
  });
  const [tolerance, setTolerance] = useState<number>();
  const fetched = useSWR<ComparisonResponse, Error>(
    comparing ? `/comparisons?a=${a.id}&b=${b.id}${tolerance === undefined ? '' : `&tolerance=${tolerance}`}` : null,
    (p: string) => call(p),
    { revalidateOnFocus: false, shouldRetryOnError: false },
  );
  const unlocked = useUnlocked(a, b, asked.data, comparing ? fetched.data : undefined);
  const detail = { data: unlocked.detail };
  const compared = { data: unlocked.compared, error: fetched.error };
  const { ignore, setIgnore } = useIgnore();
  const [threshold, setThreshold] = useState(THRESHOLD);
  const difference = useDifference(a, b, comparing ? compared.data : undefined);
  const places = usePlaces(compared.data, difference, threshold);
  const left = useMemo(
    () =>
      compared.data && places
        ? disregard({ causes: compared.data.comparison.causes, changes: places }, ignore)
        : nothingLeft,
    [compared.data, places, ignore],
  );
  const who = useWho(a, b, tolerance, comparing ? compared.data : undefined);
  const shown = useFiltered(left.changes, left.causes, filter, who.of);
  const [drawing, setDrawing] = useState(false);
  const [page, setPage] = useState<{ readonly name: string }>();
  const [target, setTarget] = useState<Target>();
  const [pointing, setPointing] = useState(false);
  const [comment, setComment] = useState<string>();
  useEffect(() => setComment(new URLSearchParams(window.location.search).get('comment') ?? undefined), []);
  const canPoint = comparing
    ? compared.data?.comparison.level === 'parts'
    : detail.data?.look.level === 'parts' || isPicture(b);
  const pins = useMemo(
    () =>
      here.comments.flatMap((c, i) =>
        c.place && (!c.resolved || c.id === comment)
          ? [
              {
                id: c.id,
                number: i + 1,
                x: c.place.x,
                y: c.place.y,
                page: c.place.page,
                resolved: c.resolved !== null,
                selected: c.id === comment,
              },
            ]
          : [],
      ),
    [here.comments, comment],
  );
  const onPlace = (page: string, x: number, y: number, reach: number): void => {
    setPointing(false);
    setTarget({ kind: 'place', at: { page, x, y, reach }, says: 'About this place' });
  };
  const chosenChange = comparing ? shown.find((c) => c.id === selected) : undefined;
  const partOfB = chosenChange?.partB?.index;
  const comments = (
    <Comments
      version={b}
      here={here}
      target={target}
      onTarget={setTarget}
      pointing={canPoint ? pointing : undefined}
      onPoint={() => setPointing((x) => !x)}
      selected={comment}
      onSelect={setComment}
    />
  );

  const choose = useCallback(
    (numbers: { line?: number; a?: number; b?: number; other?: string }): void => {
      setSelected(undefined);
      setFilter(emptyFilter);
      setTolerance(undefined);
      setThreshold(THRESHOLD);
      set(numbers);
    },
    [set],
  );
  const step = (by: number): void => {
    const next = b.number + by;
    if (next < (marks[0]?.number ?? 1) || next > newest.number) return;
    choose(comparing ? { b: next } : { a: next, b: next });
  };
  const stepA = (by: number): void => {
    const next = a.number + by;
    if (!other && next >= (marks[0]?.number ?? 1) && next <= newest.number) choose({ a: next });
  };
  const compareBefore = (): void => {
    if (b.number > (marks[0]?.number ?? 1)) choose({ a: b.number - 1 });
  };
  const stepChange = (by: number): void => {
    if (!shown.length) return;
    const at = shown.findIndex((c) => c.id === selected);
    setSelected(shown[at < 0 ? (by > 0 ? 0 : shown.length - 1) : (at + by + shown.length) % shown.length]?.id);
  };
  useKeys([
    { key: 'ArrowLeft', says: 'Version before (marker B while comparing)', run: () => step(-1) },
    { key: 'ArrowRight', says: 'Version after (marker B while comparing)', run: () => step(1) },
    { key: 'Shift+ArrowLeft', says: 'Marker A one version back', run: () => stepA(-1) },
    { key: 'Shift+ArrowRight', says: 'Marker A one version on', run: () => stepA(1) },
    { key: 'c', says: 'Compare with the version before', run: compareBefore },
    { key: 'o', says: 'Compare with another file', run: () => setDialog({ kind: 'compare-with' }) },
    ...(canPoint ? [{ key: 'm', says: 'Comment on a place', run: () => setPointing((x) => !x) }] : []),
    { key: 'Escape', says: 'Leave the comparison', run: () => choose({ a: b.number }) },
    { key: 'n', says: 'Next change', run: () => stepChange(1) },
    { key: 'p', says: 'Previous change', run: () => stepChange(-1) },
    ...(mayCheckIn ? [{ key: 'i', says: 'Check in a new version', run: () => setDialog({ kind: 'check-in' }) }] : []),
    ...(mayBringForward && b.id !== newest.id
      ? [{ key: 'w', says: 'Bring this version forward', run: () => setDialog({ kind: 'bring-forward' }) }]
      : []),
  ]);
  // The dialog stays until the page shows where the version landed: whatever is chosen after it is not undone. What cannot be asked anew just now does not hold it up.
  const landed = async (
    text: string,
    version: { readonly number: number; readonly line: string } | undefined,
  ): Promise<void> => {
    const [rail] = await Promise.all([
      call<RailColumns>(railKey(file.id, 0)).catch(() => columns),
      Promise.allSettled([refreshVersions(file.id), refresh()]),
    ]);
    if (version)
      choose({
        line: rail.lines.find((l) => l.name === version.line)?.position ?? line,
        a: version.number,
        b: version.number,
      });
    setDialog(undefined);
    setMessage({ problem: false, text });
    router.refresh();
  };
  const goOn = async (): Promise<void> => {
    try {
      await call('/checkouts', 'POST', { files: [file.id], from: b.id });
      setMessage({
        problem: false,
        text: `You have ${file.name} checked out, and v${b.number} is being downloaded. Change it in your program; what you check in is the newest version then, with v${b.number} as its source.`,
      });
      window.location.assign(`/api/v1/versions/${b.id}/content`);
    } catch (error) {
      setMessage({ problem: true, text: sentenceOf(error) });
    }
    await refresh();
  };
  const picture = useMemo(() => (comparing ? compared.data : undefined), [comparing, compared.data]);
  return (
    <main
      className="ov-file"
      onDragOver={(e) => {
        if (mayCheckIn && e.dataTransfer.types.includes('Files')) {
          e.preventDefault();
          setOver(true);
        }
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        const dropped = e.dataTransfer.files[0];
        if (mayCheckIn && dropped) setDialog({ kind: 'check-in', dropped });
      }}
    >
      {comparing ? (
        <WhatChanged
          a={a}
          b={b}
          newest={newest}
          otherName={other && (other.version.fileId === file.id ? `${other.name}, ${other.version.line}` : other.name)}
          who={who}
          onCompareWith={() => setDialog({ kind: 'compare-with' })}
          result={compared.data}
          problem={compared.error && sentenceOf(compared.error)}
          filter={filter}
          onFilter={setFilter}
          ignore={ignore}
          onIgnore={setIgnore}
          changes={left.changes}
          causes={left.causes}
          ignored={left.ignored}
          threshold={difference && threshold}
          onThreshold={setThreshold}
          onTolerance={setTolerance}
          drawing={drawing}
          onDraw={() => setDrawing((x) => !x)}
          shown={shown}
          selected={selected}
          onSelect={setSelected}
          comments={comments}
          onComment={
            partOfB === undefined
              ? undefined
              : () =>
                  setTarget({
                    kind: 'place',
                    at: { part: partOfB },
                    says: `About ${chosenChange?.part.kind ?? 'this part'} ${chosenChange?.part.name ?? ''}`,
                  })
          }
          onPage={(name) => setPage({ name })}
          onLeave={() => choose({ a: b.number })}
          onSwap={() =>
            other
              ? router.push(`/files/${a.fileId}?${lineQuery(columns.lines, a, file.id)}v=${a.number}&with=${b.id}`)
              : choose({ a: b.number, b: a.number })
          }
        />
      ) : (
        <About
          file={file}
          holder={
            <Holder
              file={file}
              standing={standing}
              references={references}
              rights={rights}
              refresh={() => Promise.all([refresh(), refreshReferences()])}
            />
          }
          references={
            <References
              file={file}
              version={b}
              references={references}
              refresh={refreshReferences}
              mayOrganise={rights.mayOrganise}
            />
          }
          version={b}
          newest={newest}
          detail={detail.data}
          message={message}
          mayCheckIn={mayCheckIn}
          mayBringForward={mayBringForward}
          comments={comments}
          onNewest={() => choose({ a: newest.number, b: newest.number })}
          onCompareBefore={compareBefore}
          onCompareNewest={() => choose({ a: b.number, b: newest.number })}
          onCompareWith={() => setDialog({ kind: 'compare-with' })}
          problem={otherProblem && sentenceOf(otherProblem)}
          onCheckIn={() => setDialog({ kind: 'check-in' })}
          onBringForward={() => setDialog({ kind: 'bring-forward' })}
          onContinue={() => void goOn()}
        />
      )}
      <Passwords value={unlocked.passwords}>
        <Viewer
          file={file}
          locked={unlocked.locked.length ? <UnlockForm versions={unlocked.locked} onGive={unlocked.give} /> : undefined}
          difference={difference}
          a={a}
          b={b}
          comparing={comparing}
          failed={comparing && compared.error !== undefined}
          detail={detail.data?.id === b.id ? detail.data : undefined}
          result={picture}
          shown={shown}
          selected={selected}
          onSelect={setSelected}
          look={look}
          onLook={(next: Look) => set({ look: next })}
          onStepChange={stepChange}
          over={over}
          area={filter.area}
          drawing={drawing}
          onArea={(area) => {
            setDrawing(false);
            setFilter((f) => ({ ...f, area }));
          }}
          focus={comparing && filter.cause !== undefined}
          pins={pins}
          onPin={setComment}
          page={page}
          pointing={pointing}
          onPlace={onPlace}
        />
      </Passwords>
      <Rail
        fileId={file.id}
        line={line}
        lines={columns.lines}
        onLine={(next) => {
          setSelected(undefined);
          setFilter(emptyFilter);
          write(next ? `line=${next}` : '');
        }}
        versions={marks}
        a={other ? b.number : a.number}
        b={b.number}
        onMarkers={choose}
      />
      {dialog?.kind === 'check-in' && (
        <CheckInDialog
          file={file}
          newest={newest}
          holding={standing?.checkout?.by.id === rights.me.id}
          takenOver={standing?.takenOver ?? undefined}
          dropped={dialog.dropped}
          me={rights.me.id}
          references={references}
          onClose={() => setDialog(undefined)}
          onLanded={(text, version) => void landed(text, version)}
          onLookAt={(number) => {
            setDialog(undefined);
            void refreshVersions(file.id).then(() => choose({ a: number, b: number }));
          }}
        />
      )}
      {dialog?.kind === 'compare-with' && (
        <CompareWithDialog
          file={file}
          line={line}
          lines={columns.lines}
          version={b}
          onClose={() => setDialog(undefined)}
          onChosen={(id) => {
            setDialog(undefined);
            choose({ b: b.number, other: id });
          }}
        />
      )}
      {dialog?.kind === 'bring-forward' && (
        <BringForwardDialog
          version={b}
          newest={newest}
          onClose={() => setDialog(undefined)}
          onLanded={(text, version) => void landed(text, version)}
        />
      )}
    </main>
  );
}

interface Address {
  /** Numbers of versions that exist. */
  readonly a: number;
  readonly b: number;
  readonly newest: number;
  readonly line: number;
  readonly look: Look;
  /** Id of a version from elsewhere that is compared with B. */
  readonly other: string | undefined;
  readonly set: (change: { line?: number; a?: number; b?: number; look?: Look; other?: string }) => void;
}

const none: readonly Version[] = [];

/** The query of the address, which is changed without loading the page anew. */
function useQuery(): { query: URLSearchParams; write: (text: string) => void } {
  const fromRouter = useSearchParams();
  // The router follows the address a little later; keys pressed in between must see the newest state.
  const [text, setText] = useState(() => fromRouter?.toString() ?? '');
  useEffect(() => setText(window.location.search.slice(1)), [fromRouter]);
  const query = useMemo(() => new URLSearchParams(text), [text]);
  const write = useCallback((next: string): void => {
    setText(next);
    window.history.replaceState(null, '', next ? `?${next}` : window.location.pathname);
  }, []);
  return { query, write };
}

/** Reads and writes ?v=3 (one version), ?a=3&b=5&look=curtain (a comparison), or ?v=3&with=(version id) (one with a version from elsewhere); on a branch with &line=1. */
function useAddress(
  query: URLSearchParams,
  write: (text: string) => void,
  first: number,
  newest: number,
  line: number,
): Address {
  const { a, b } = numbersOf((name) => query.get(name), { first, newest });
  const look = (query.get('look') ?? 'overlay') as Look;
  const other = query.get('with') ?? undefined;
  const set = useCallback(
    (change: { line?: number; a?: number; b?: number; look?: Look; other?: string }): void => {
      const nextLine = change.line ?? line;
      const nextB = change.b ?? b;
      const nextA = change.a ?? a;
      const nextLook = change.look ?? look;
      const next = new URLSearchParams();
      if (nextLine) next.set('line', String(nextLine));
      // A version from elsewhere stays until another A is chosen.
      const nextOther = change.other ?? (change.a === undefined ? other : undefined);
      if (nextOther !== undefined) {
        if (nextB !== newest) next.set('v', String(nextB));
        next.set('with', nextOther);
      } else if (nextA !== nextB) {
        next.set('a', String(nextA));
        next.set('b', String(nextB));
      } else if (nextB !== newest || nextLine !== line) next.set('v', String(nextB));
      if (nextLook !== 'overlay') next.set('look', nextLook);
      write(next.toString());
    },
    [a, b, look, newest, line, other, write],
  );
  return { a, b, newest, line, look, other, set };
}

/** The versions of the address. Until both are here, those that were shown before stay. */
function useShown(
  fileId: string,
  wanted: { line: number; a: number; b: number; newest: number },
  initial: readonly Version[],
): { a: Version; b: Version; newest: Version } {
  const a = useVersion(fileId, wanted.line, wanted.a, initial);
  const b = useVersion(fileId, wanted.line, wanted.b, initial);
  const newest = useVersion(fileId, wanted.line, wanted.newest, initial);
  const [before, setBefore] = useState({
    a: a ?? (initial[0] as Version),
    b: b ?? (initial[0] as Version),
    newest: newest ?? (initial.at(-1) as Version),
  });
  if (a && b && newest && (a !== before.a || b !== before.b || newest !== before.newest)) {
    const now = { a, b, newest };
    setBefore(now);
    return now;
  }
  return before;
}

const lineQuery = (lines: RailColumns['lines'], version: Version, fileId: string): string => {
  const position = version.fileId === fileId ? (lines.find((l) => l.name === version.line)?.position ?? 0) : 0;
  return position ? `line=${position}&` : '';
};
