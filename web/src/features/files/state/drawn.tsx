'use client';

/** Who drew what in the version that is shown alone, and how that is drawn over it. */
import { useMemo, useState } from 'react';
import { api } from '../../../contract/operations/index.ts';
import type { DrawnByAnswer } from '../../../contract/drawn.ts';
import { useAnswer } from '../../api/useAnswer.ts';
import { contextOf } from '../../frame/context.tsx';
import type { Frame } from '../../viewer/paint/frames.ts';
import { usePairState } from './usePairState.ts';
import { useShown } from './shown.tsx';

/** Somebody who drew, with the letter and the colour that their parts have on the page. */
export interface Drawer {
  readonly id: string;
  readonly name: string;
  readonly letter: string;
  readonly style: number;
  readonly parts: number;
}

export interface DrawnHere {
  readonly on: boolean;
  readonly toggle: () => void;
  readonly answer: DrawnByAnswer | undefined;
  readonly people: readonly Drawer[];
  /** Whose parts alone are marked; undefined for everybody's. */
  readonly only: string | undefined;
  readonly setOnly: (id: string | undefined) => void;
  /** Words that what is gone is searched by. */
  readonly search: string;
  readonly setSearch: (words: string) => void;
  readonly frames: readonly Frame[];
  /** Of a picture, the square that was pointed at; its position among the parts. */
  readonly square: number | undefined;
  /** Points at a square; false where there are none. */
  readonly point: (x: number, y: number) => boolean;
}

const [Provider, useDrawn] = contextOf<DrawnHere>('Drawn');
export { useDrawn };

const noPeople: readonly Drawer[] = [];
const noFrames: readonly Frame[] = [];

export function DrawnProvider({ children }: { readonly children: React.ReactNode }): React.ReactNode {
  const { b, comparing } = useShown();
  const [wanted, setWanted] = useState(false);
  const [search, setSearch] = usePairState(b.id, '');
  const [only, setOnly] = usePairState<string | undefined>(b.id, undefined);
  const on = wanted && !comparing;
  const query = search.trim() ? { gone: search.trim() } : {};
  const { data } = useAnswer(api.versions.drawnBy, on ? { versionId: b.id, query } : null, {
    revalidateOnFocus: false,
    keepPreviousData: search !== '',
    refreshInterval: (answer) => (answer?.ready === false ? 1500 : 0),
  });
  const answer = on ? data : undefined;
  const people = useMemo(() => (answer?.ready ? peopleOf(answer) : noPeople), [answer]);
  const frames = useMemo(() => (answer?.ready ? framesOf(answer, people, only) : noFrames), [answer, people, only]);
  const [square, setSquare] = usePairState<number | undefined>(b.id, undefined);
  const point = (x: number, y: number): boolean => {
    if (!answer?.ready || answer.parts[0]?.kind !== 'square') return false;
    const found = answer.parts.findIndex(({ box }) => box && holds(box, x, y));
    setSquare(found < 0 ? undefined : found);
    return true;
  };
  const toggle = (): void => setWanted((before) => !before);
  return (
    <Provider value={{ on, toggle, answer, people, only, setOnly, search, setSearch, frames, square, point }}>
      {children}
    </Provider>
  );
}

const holds = ([left = 0, top = 0, right = 0, bottom = 0]: readonly number[], x: number, y: number): boolean =>
  left <= x && x < right && top <= y && y < bottom;

/** Whoever changed a part last drew it. */
const lastOf = ({ versions }: DrawnByAnswer, story: readonly number[]): DrawnByAnswer['versions'][number] | undefined =>
  versions[story.at(-1) ?? -1];

function peopleOf(answer: DrawnByAnswer): Drawer[] {
  const counts = new Map<string, { name: string; parts: number }>();
  for (const { story } of answer.parts) {
    const by = lastOf(answer, story)?.by;
    if (by) counts.set(by.id, { name: by.name, parts: (counts.get(by.id)?.parts ?? 0) + 1 });
  }
  const taken = new Set<string>();
  return [...counts]
    .sort((p, q) => q[1].parts - p[1].parts)
    .map(([id, { name, parts }], style) => ({ id, name, parts, style, letter: letterFor(name, taken) }));
}

/** The first letter of the name that nobody else has. */
function letterFor(name: string, taken: Set<string>): string {
  const own = `${name.toUpperCase()}ABCDEFGHIJKLMNOPQRSTUVWXYZ`.match(/[A-Z]/g) ?? [];
  const letter = own.find((l) => !taken.has(l)) ?? '?';
  taken.add(letter);
  return letter;
}

function framesOf(answer: DrawnByAnswer, people: readonly Drawer[], only: string | undefined): Frame[] {
  const drawers = new Map(people.map((person) => [person.id, person]));
  const frames = answer.parts.flatMap(({ box, page, kind, story }): Square[] => {
    const drawer = drawers.get(lastOf(answer, story)?.by.id ?? '');
    if (!box || !drawer || (only !== undefined && drawer.id !== only)) return [];
    const frame = {
      box: [...box] as [number, number, number, number],
      page,
      letter: drawer.letter,
      style: drawer.style,
    };
    return [{ ...frame, isSquare: kind === 'square' }];
  });
  return frames.some((frame) => frame.isSquare) ? united(frames) : frames;
}

interface Square extends Frame {
  readonly isSquare: boolean;
}

/** Squares of one person that touch, as rectangles: first along rows, then rows of the same ends. */
function united(squares: readonly Square[]): Frame[] {
  const isOne = (a: Frame, b: Frame): boolean => a.style === b.style && a.letter === b.letter && a.page === b.page;
  const rows: Frame[] = [];
  for (const square of squares) {
    const before = rows.at(-1);
    const [left, top, right, bottom] = square.box;
    if (before && isOne(before, square) && before.box[1] === top && before.box[2] === left)
      rows[rows.length - 1] = { ...before, box: [before.box[0], top, right, bottom] };
    else rows.push(square);
  }
  const whole: Frame[] = [];
  for (const row of rows) {
    const [left, top, right, bottom] = row.box;
    const above = whole.findLastIndex(
      (frame) => isOne(frame, row) && frame.box[0] === left && frame.box[2] === right && frame.box[3] === top,
    );
    const there = whole[above];
    if (there) whole[above] = { ...there, box: [left, there.box[1], right, bottom] };
    else whole.push(row);
  }
  return whole;
}
