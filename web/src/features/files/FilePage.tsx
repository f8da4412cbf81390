'use client';

/** The file page: About or What changed, the viewer, and the rail. The address bar holds what is shown. */
import dynamic from 'next/dynamic';
import { useRouter, useSearchParams } from 'next/navigation';
import { useCallback, useEffect, useMemo, useState } from 'react';
import useSWR from 'swr';
import type { ComparisonResponse, FileEntry, RailColumns, Version, VersionDetail } from '../../contract/api.ts';
import { call, sentenceOf } from '../api/client.ts';
import { useKeys } from '../frame/keys.tsx';
import { marksOf } from '../rail/layout.ts';
import { Rail } from '../rail/Rail.tsx';
import type { Look } from '../viewer/looks.ts';
import { About } from './About.tsx';
import { BringForwardDialog } from './BringForwardDialog.tsx';
import { CheckInDialog } from './CheckInDialog.tsx';
import { numbersOf } from '../../contract/pages.ts';
import { emptyFilter, useFiltered, type Filter } from './filter.ts';
import { refreshVersions, useRail, useVersion } from './versions.ts';
import { WhatChanged } from './WhatChanged.tsx';

const Viewer = dynamic(() => import('../viewer/Viewer.tsx').then((m) => m.Viewer), { ssr: false, loading: () => <div className="ov-viewer" /> });

interface Props {
  readonly file: FileEntry;
  readonly rail: RailColumns;
  /** The versions that the address asks for, and the newest. */
  readonly initial: readonly Version[];
  readonly mayCheckIn: boolean;
  readonly mayBringForward: boolean;
}

export interface Message {
  readonly problem: boolean;
  readonly text: string;
}

export function FilePage({ file, rail, initial, mayCheckIn, mayBringForward }: Props): React.ReactNode {
  const router = useRouter();
  const columns = useRail(file.id, rail), marks = useMemo(() => marksOf(columns), [columns]);
  const state = useAddress(marks.at(-1)?.number ?? 1);
  const { look, set } = state;
  const { a, b, newest } = useShown(file.id, state, initial);
  const comparing = a.id !== b.id;
  const [dialog, setDialog] = useState<{ kind: 'check-in'; dropped?: File } | { kind: 'bring-forward' }>();
  const [message, setMessage] = useState<Message>();
  const [over, setOver] = useState(false);
  const [filter, setFilter] = useState<Filter>(emptyFilter);
  const [selected, setSelected] = useState<string>();
  const detail = useSWR<VersionDetail>(`/versions/${b.id}`, (p: string) => call(p), { revalidateOnFocus: false, keepPreviousData: false });
  const compared = useSWR<ComparisonResponse, Error>(comparing ? `/comparisons?a=${a.id}&b=${b.id}` : null, (p: string) => call(p), { revalidateOnFocus: false, shouldRetryOnError: false });
  const shown = useFiltered(compared.data?.comparison.changes, filter);

  const choose = useCallback((numbers: { a?: number; b?: number }): void => {
    setSelected(undefined);
    setFilter(emptyFilter);
    set(numbers);
  }, [set]);
  const step = (by: number): void => {
    const next = b.number + by;
    if (next < 1 || next > newest.number) return;
    choose(comparing ? { b: next } : { a: next, b: next });
  };
  const stepA = (by: number): void => {
    const next = a.number + by;
    if (next >= 1 && next <= newest.number) choose({ a: next });
  };
  const compareBefore = (): void => {
    if (b.number > 1) choose({ a: b.number - 1 });
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
    { key: 'Escape', says: 'Leave the comparison', run: () => choose({ a: b.number }) },
    { key: 'n', says: 'Next change', run: () => stepChange(1) },
    { key: 'p', says: 'Previous change', run: () => stepChange(-1) },
    ...(mayCheckIn ? [{ key: 'i', says: 'Check in a new version', run: () => setDialog({ kind: 'check-in' }) }] : []),
    ...(mayBringForward && b.id !== newest.id ? [{ key: 'w', says: 'Bring this version forward', run: () => setDialog({ kind: 'bring-forward' }) }] : []),
  ]);
  const landed = async (text: string, number: number | undefined): Promise<void> => {
    setDialog(undefined);
    setMessage({ problem: false, text });
    await refreshVersions(file.id);
    router.refresh();
    if (number !== undefined) choose({ a: number, b: number });
  };
  const picture = useMemo(() => (comparing ? compared.data : undefined), [comparing, compared.data]);
  return (
    <main className="ov-file" onDragOver={(e) => { if (mayCheckIn && e.dataTransfer.types.includes('Files')) { e.preventDefault(); setOver(true); } }} onDragLeave={() => setOver(false)}
      onDrop={(e) => { e.preventDefault(); setOver(false); const dropped = e.dataTransfer.files[0]; if (mayCheckIn && dropped) setDialog({ kind: 'check-in', dropped }); }}>
      {comparing ? (
        <WhatChanged a={a} b={b} newest={newest} result={compared.data} problem={compared.error && sentenceOf(compared.error)} filter={filter} onFilter={setFilter} shown={shown} selected={selected} onSelect={setSelected}
          onLeave={() => choose({ a: b.number })} onSwap={() => choose({ a: b.number, b: a.number })} />
      ) : (
        <About file={file} version={b} newest={newest} detail={detail.data} message={message} mayCheckIn={mayCheckIn} mayBringForward={mayBringForward}
          onNewest={() => choose({ a: newest.number, b: newest.number })} onCompareBefore={compareBefore} onCompareNewest={() => choose({ a: b.number, b: newest.number })}
          onCheckIn={() => setDialog({ kind: 'check-in' })} onBringForward={() => setDialog({ kind: 'bring-forward' })} />
      )}
      <Viewer file={file} a={a} b={b} comparing={comparing} detail={detail.data?.id === b.id ? detail.data : undefined} result={picture} shown={shown} selected={selected} onSelect={setSelected} look={look} onLook={(next: Look) => set({ look: next })} onStepChange={stepChange} over={over} />
      <Rail fileId={file.id} versions={marks} a={a.number} b={b.number} onMarkers={choose} />
      {dialog?.kind === 'check-in' && <CheckInDialog file={file} newest={newest} dropped={dialog.dropped} onClose={() => setDialog(undefined)} onLanded={(text, number) => void landed(text, number)} onLookAt={(number) => { setDialog(undefined); void refreshVersions(file.id).then(() => choose({ a: number, b: number })); }} />}
      {dialog?.kind === 'bring-forward' && <BringForwardDialog version={b} newest={newest} onClose={() => setDialog(undefined)} onLanded={(text, number) => void landed(text, number)} />}
    </main>
  );
}

interface Address {
  /** Numbers of versions that exist. */
  readonly a: number;
  readonly b: number;
  readonly newest: number;
  readonly look: Look;
  readonly set: (change: { a?: number; b?: number; look?: Look }) => void;
}

/** Reads and writes ?v=3 (one version) or ?a=3&b=5&look=curtain (a comparison). */
function useAddress(newest: number): Address {
  const fromRouter = useSearchParams();
  // The router follows the address a little later; keys pressed in between must see the newest state.
  const [query, setQuery] = useState(() => fromRouter?.toString() ?? '');
  useEffect(() => setQuery(window.location.search.slice(1)), [fromRouter]);
  const params = useMemo(() => new URLSearchParams(query), [query]);
  const { a, b } = numbersOf((name) => params.get(name), newest);
  const look = (params.get('look') ?? 'overlay') as Look;
  const set = useCallback((change: { a?: number; b?: number; look?: Look }): void => {
    const nextB = change.b ?? b, nextA = change.a ?? a, nextLook = change.look ?? look;
    const query = new URLSearchParams();
    if (nextA !== nextB) {
      query.set('a', String(nextA));
      query.set('b', String(nextB));
    } else if (nextB !== newest) query.set('v', String(nextB));
    if (nextLook !== 'overlay') query.set('look', nextLook);
    const text = query.toString();
    setQuery(text);
    window.history.replaceState(null, '', text ? `?${text}` : window.location.pathname);
  }, [a, b, look, newest]);
  return { a, b, newest, look, set };
}

/** The versions of the address. Until both are here, those that were shown before stay. */
function useShown(fileId: string, wanted: { a: number; b: number; newest: number }, initial: readonly Version[]): { a: Version; b: Version; newest: Version } {
  const a = useVersion(fileId, wanted.a, initial), b = useVersion(fileId, wanted.b, initial), newest = useVersion(fileId, wanted.newest, initial);
  const [before, setBefore] = useState({ a: a ?? (initial[0] as Version), b: b ?? (initial[0] as Version), newest: newest ?? (initial.at(-1) as Version) });
  if (a && b && newest && (a !== before.a || b !== before.b || newest !== before.newest)) {
    const now = { a, b, newest };
    setBefore(now);
    return now;
  }
  return before;
}
