'use client';

/** Comments on what is shown: which one is open, where a new one will stand, and their flags on the page. */
import { useEffect, useMemo, useState } from 'react';
import { isPicture } from '../../cards.ts';
import { useComments, type CommentsHere } from '../../comments/useComments.ts';
import type { Target } from '../../comments/target.ts';
import { contextOf } from '../../frame/context.tsx';
import type { Pin } from '../../viewer/pins.ts';
import { useCompared } from './compared.tsx';
import { useShown } from './shown.tsx';

export interface Remarks {
  readonly here: CommentsHere;
  /** What a new comment will stand at. */
  readonly target: Target | undefined;
  readonly setTarget: (target: Target | undefined) => void;
  /** False where nothing on the page can be pointed at. */
  readonly canPoint: boolean;
  /** True while a place for a comment is being chosen. */
  readonly pointing: boolean;
  readonly togglePointing: () => void;
  readonly putAt: (page: string, x: number, y: number, reach: number) => void;
  /** At a part of B, by its position. */
  readonly putOn: (part: number, name: string) => void;
  readonly opened: string | undefined;
  readonly openOne: (id: string | undefined) => void;
  readonly pins: readonly Pin[];
}

const [Provider, useRemarks] = contextOf<Remarks>('Remarks');
export { useRemarks };

export function RemarksProvider({ children }: { readonly children: React.ReactNode }): React.ReactNode {
  const { file, b, comparing } = useShown();
  const { result, detail } = useCompared();
  const here = useComments(file.id, b.id);
  const [target, setTarget] = useState<Target>();
  const [pointing, setPointing] = useState(false);
  const [opened, openOne] = useState<string>();
  useEffect(() => openOne(new URLSearchParams(window.location.search).get('comment') ?? undefined), []);
  const pins = useMemo(() => pinsOf(here.comments, opened), [here.comments, opened]);
  const level = comparing ? result?.comparison.level : detail?.look.level;
  const canPoint = level === 'parts' || level === 'solid' || (!comparing && isPicture(b));
  const putAt = (page: string, x: number, y: number, reach: number): void => {
    setPointing(false);
    setTarget({ kind: 'place', at: { page, x, y, reach }, says: 'About this place' });
  };
  const putOn = (part: number, name: string): void => {
    setPointing(false);
    setTarget({ kind: 'place', at: { part }, says: `About “${name}”` });
  };
  const togglePointing = (): void => setPointing((on) => !on);
  return (
    <Provider
      value={{ here, target, setTarget, canPoint, pointing, togglePointing, putAt, putOn, opened, openOne, pins }}
    >
      {children}
    </Provider>
  );
}

/** Resolved comments have no flag, unless they are looked at. */
const pinsOf = (comments: CommentsHere['comments'], opened: string | undefined): Pin[] =>
  comments.flatMap((comment, i): Pin[] => {
    const { id, place } = comment;
    const resolved = comment.resolved !== null;
    if (!place || (resolved && id !== opened)) return [];
    const { x, y, page, part } = place;
    return [{ id, number: i + 1, x, y, page, part, resolved, selected: id === opened }];
  });
