'use client';

/** Which file, line and versions the page shows. The address bar holds it. */
import { useSearchParams } from 'next/navigation';
import { useCallback, useDeferredValue, useEffect, useMemo, useState } from 'react';
import type { FileEntry, RailColumns, Version } from '../../../contract/api.ts';
import type { Proposal } from '../../../contract/proposals.ts';
import { inSittings } from '@ovrel/core/sittings';
import { api } from '../../../contract/operations/index.ts';
import { useAnswer } from '../../api/useAnswer.ts';
import { isFiltering, NO_FILTER, type Filter } from '../../filter/filter.ts';
import { sentenceOf } from '../../api/client.ts';
import { contextOf } from '../../frame/context.tsx';
import { shownMarks } from '../../rail/filter.ts';
import { marksOf, pauseOf, type Mark } from '../../rail/layout.ts';
import { looks, type Showing } from '../../viewer/looks.ts';
import { lineOf, namedIn, PLAIN_LOOK, pointsOf, queryOf, type Points, type VersionPoint } from '../address.ts';
import { useOther, type Other } from '../useOther.ts';
import { useProposed } from '../useProposed.ts';
import { useRail, useVersion } from '../versions.ts';

/** What of the address is to change; versions and lines by id. */
export interface Move {
  readonly line?: string;
  readonly a?: string;
  readonly b?: string;
  /** A version from elsewhere that takes the place of A. */
  readonly other?: string;
  /** What is about to be done, beside the version that it is done to. */
  readonly proposal?: string;
  readonly look?: Showing;
}

export interface Shown extends Points<Version> {
  readonly file: FileEntry;
  readonly columns: RailColumns;
  /** Versions of the line that the filter shows, with those that are looked at, oldest first. */
  readonly marks: readonly Mark[];
  /** All of them. */
  readonly every: readonly Mark[];
  readonly railFilter: Filter;
  readonly setRailFilter: (filter: Filter) => void;
  /** Those versions of any line that the filter shows. */
  readonly passing: (marks: readonly Mark[]) => readonly Mark[];
  readonly other: Other | undefined;
  /** Why the version from elsewhere is not shown. */
  readonly otherProblem: string | undefined;
  /** What is about to be done: it stands in the place of B, and what it is done to in that of A. */
  readonly proposal: Proposal | undefined;
  readonly comparing: boolean;
  readonly look: Showing;
  readonly move: (to: Move) => void;
  /** Ids of A and B as the address has them: what was just gone to may not be here yet. */
  readonly askedFor: { readonly a: string; readonly b: string };
  /** Goes to the newest version of a line. */
  readonly goToLine: (line: string) => void;
  /**
   * The version so many steps after this one on the line; before it where negative. A sitting is one step, unless each
   * of its saves is meant. What is filtered out is stepped over, but for single saves.
   */
  readonly beside: (id: string, steps: number, each?: boolean) => Mark | undefined;
  /** Versions of the sitting that a version belongs to, oldest first; itself alone where it is no save. */
  readonly sittingOf: (id: string) => readonly Mark[];
}

const [Provider, useShown] = contextOf<Shown>('Shown');
export { useShown };

const none: readonly Version[] = [];

interface Props {
  readonly file: FileEntry;
  /** The line that the address asks for, and the versions of it that the page needs at first. */
  readonly rail: RailColumns;
  readonly initial: readonly Version[];
  readonly children: React.ReactNode;
}

export function ShownProvider({ file, rail, initial, children }: Props): React.ReactNode {
  const { get, write } = useQuery();
  const line = lineOf(get, rail.lines, rail.ids.includes(namedIn(get) ?? '') ? rail.line : mainOf(rail));
  const columns = useRail(file.id, line, rail);
  const every = useMemo(() => marksOf(columns), [columns]);
  const asked = useMemo(() => pointsOf(get, every), [get, every]);
  const { railFilter, setRailFilter, marks, passing } = useFiltered(file.id, every, asked);
  const points = usePoints(file.id, columns.line, asked, columns.line === rail.line ? initial : none);
  const { other, problem } = useOther(get('with') ?? undefined);
  const proposed = useProposed(get('proposal') ?? undefined);
  const look = looks.find((l) => l === get('look')) ?? PLAIN_LOOK;
  const move = useMoves(write, get, { line, columns, asked, look });
  const goToLine = useCallback(
    (next: string): void => write(next === mainOf(columns) ? '' : `line=${next}`),
    [write, columns],
  );
  const pause = pauseOf(columns);
  const sittings = useMemo(() => inSittings(every, pause), [every, pause]);
  const steps = useMemo(() => inSittings(marks, pause), [marks, pause]);
  const beside = useCallback(
    (id: string, by: number, each = false): Mark | undefined =>
      each
        ? every[every.findIndex((m) => m.id === id) + by]
        : steps[steps.findIndex((step) => step.some((m) => m.id === id)) + by]?.at(-1),
    [every, steps],
  );
  const sittingOf = useCallback(
    (id: string): readonly Mark[] => sittings.find((sitting) => sitting.some((m) => m.id === id)) ?? [],
    [sittings],
  );
  const { newest } = points;
  const { proposal, onto } = proposed;
  const b = proposal?.version ?? points.b;
  const a = onto ?? other?.version ?? points.a;
  const askedA = asked?.a.id ?? a.id;
  const askedB = asked?.b.id ?? b.id;
  const otherProblem = problem && sentenceOf(problem);
  const value = useMemo(
    () => ({
      file,
      columns,
      marks,
      every,
      railFilter,
      setRailFilter,
      passing,
      a,
      b,
      newest,
      other,
      otherProblem,
      proposal,
      askedFor: { a: askedA, b: askedB },
      comparing: a.id !== b.id,
      look,
      move,
      goToLine,
      beside,
      sittingOf,
    }),
    [
      file,
      columns,
      marks,
      every,
      railFilter,
      setRailFilter,
      passing,
      a,
      b,
      askedA,
      askedB,
      newest,
      other,
      otherProblem,
      proposal,
      look,
      move,
      goToLine,
      beside,
      sittingOf,
    ],
  );
  return <Provider value={value}>{children}</Provider>;
}

/** The versions that a filter shows; those that the address asks for are shown always. */
function useFiltered(
  fileId: string,
  every: readonly Mark[],
  asked: Points<VersionPoint> | undefined,
): Pick<Shown, 'railFilter' | 'setRailFilter' | 'marks' | 'passing'> {
  const [railFilter, setRailFilter] = useState(NO_FILTER);
  const words = useDeferredValue(railFilter.words.trim());
  const { data } = useAnswer(api.files.matching, words === '' ? null : { fileId, query: { words } }, {
    keepPreviousData: true,
  });
  const a = asked?.a.id ?? '';
  const b = asked?.b.id ?? '';
  const passing = useCallback(
    (of: readonly Mark[]): readonly Mark[] => {
      if (!isFiltering(railFilter)) return of;
      return shownMarks(of, railFilter, words === '' || !data ? undefined : new Set(data.versions), [a, b]);
    },
    [railFilter, words, data, a, b],
  );
  const marks = useMemo(() => passing(every), [passing, every]);
  return { railFilter, setRailFilter, marks, passing };
}

const mainOf = ({ lines, line }: RailColumns): string => lines.find((l) => l.position === 0)?.id ?? line;

type Get = (name: string) => string | null;

/** The query of the address, which is changed without loading the page anew. */
function useQuery(): { get: Get; write: (text: string) => void } {
  const fromRouter = useSearchParams();
  // The router follows the address a little later; keys pressed in between must see the newest state.
  const [text, setText] = useState(() => fromRouter?.toString() ?? '');
  useEffect(() => setText(window.location.search.slice(1)), [fromRouter]);
  const get = useMemo(() => {
    const query = new URLSearchParams(text);
    return (name: string) => query.get(name);
  }, [text]);
  const write = useCallback((next: string): void => {
    setText(next);
    window.history.replaceState(null, '', next ? `?${next}` : window.location.pathname);
  }, []);
  return { get, write };
}

const isLookAlone = ({ look, ...rest }: Move): boolean => look !== undefined && Object.keys(rest).length === 0;

interface Place {
  readonly line: string;
  readonly columns: RailColumns;
  readonly asked: Points<Mark> | undefined;
  readonly look: Showing;
}

/** Writes the address that comes of a move. */
function useMoves(write: (text: string) => void, get: Get, { line, columns, asked, look }: Place): (to: Move) => void {
  return useCallback(
    (to: Move): void => {
      const nextLine = to.line ?? line;
      const b = to.b ?? asked?.b.id ?? '';
      const stays = nextLine === line;
      write(
        queryOf({
          line: nextLine === mainOf(columns) ? undefined : nextLine,
          a: to.a ?? asked?.a.id ?? b,
          b,
          newest: stays ? asked?.newest.id : undefined,
          look: to.look ?? look,
          // A version from elsewhere stays until another A is chosen.
          other: to.other ?? (to.a === undefined ? (get('with') ?? undefined) : undefined),
          // What is about to be done stays while only the way of looking at it changes.
          proposal: to.proposal ?? (isLookAlone(to) ? (get('proposal') ?? undefined) : undefined),
        }),
      );
    },
    [write, get, line, columns, asked, look],
  );
}

/** The versions of the address. Until all are here, those that were shown before stay. */
function usePoints(
  fileId: string,
  line: string,
  asked: Points<Mark> | undefined,
  initial: readonly Version[],
): Points<Version> {
  const nowhere = { id: '', number: 1 };
  const a = useVersion(fileId, line, asked?.a ?? nowhere, initial);
  const b = useVersion(fileId, line, asked?.b ?? nowhere, initial);
  const newest = useVersion(fileId, line, asked?.newest ?? nowhere, initial);
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
