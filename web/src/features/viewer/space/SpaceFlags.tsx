'use client';

/** Flags of comments at the parts that they are about; they go along when one looks from elsewhere. */
import { useEffect, useRef } from 'react';
import { useRemarks } from '../../files/state/remarks.tsx';
import type { Pin } from '../pins.ts';
import { boxOfPart } from './shown.ts';
import type { Spaces } from './useSpaces.ts';
import type { SpaceInView } from './useSpaceStage.ts';
import type { Spot3 } from './ways.ts';

export function SpaceFlags({
  spaces,
  space,
}: {
  readonly spaces: Spaces;
  readonly space: SpaceInView;
}): React.ReactNode {
  const { pins, openOne, opened } = useRemarks();
  const flags = useRef<HTMLDivElement>(null);
  const { b } = spaces;
  const places = pins.map((pin) => placeOf(spaces, pin));
  useEffect(() => {
    const place = (): void =>
      places.forEach((at, k) => {
        const flag = flags.current?.children[k] as HTMLElement | undefined;
        const seen = at && space.seenAt(at);
        if (!flag) return;
        flag.hidden = seen === undefined;
        if (seen) flag.style.transform = `translate(${Math.round(seen[0])}px, ${Math.round(seen[1])}px)`;
      });
    space.whenDrawn(place);
    place();
  });
  // To the comment that was opened in the list.
  useEffect(() => {
    const pin = pins.find(({ id }) => id === opened);
    const box = pin?.part === null || pin === undefined ? undefined : boxOfPart(b, pin.part);
    if (box) space.fly(box);
    // Only when another one is opened, or the model has come.
  }, [opened, b]); // eslint-disable-line react-hooks/exhaustive-deps
  return (
    <div className="ov-flags" ref={flags}>
      {pins.map(({ id, number, resolved, selected }) => (
        <button
          key={id}
          type="button"
          className={`ov-flag${resolved ? ' is-resolved' : ''}${selected ? ' is-selected' : ''}`}
          aria-label={`Comment ${number}`}
          aria-pressed={selected}
          onClick={() => openOne(selected ? undefined : id)}
        >
          {number}
        </button>
      ))}
    </div>
  );
}

/** The middle of the top of its part, from the origin of the scene. */
function placeOf({ b }: Spaces, { part }: Pin): Spot3 | undefined {
  const box = part === null ? undefined : boxOfPart(b, part);
  if (!box || !b) return undefined;
  const [x = 0, y = 0, z = 0] = b.head.origin;
  return [(box[0] + box[3]) / 2 - x, (box[1] + box[4]) / 2 - y, box[5] - z];
}
