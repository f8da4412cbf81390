'use client';
/** The history that a file will have: lanes of copies that can be dragged. */
import { placedAfter, placedBefore, type ArrangedStep, type Arrangement } from '@ovrel/core';
import { useEffect, useRef, useState } from 'react';
import { aside, moved, proposedAs, saySure, stepsOf, type ChosenFile } from './chosen-plan.ts';
import { baseName } from './names.ts';
import type { StepLooks } from './useStepLooks.ts';

/** Room of a step, in pixels. */
const WIDTH = 148;
const HEIGHT = 168;
/** Middle of its picture. */
const MIDDLE = 48;

interface Props {
  readonly file: ChosenFile;
  readonly looks: StepLooks;
  readonly chosen: string | undefined;
  readonly busy: boolean;
  readonly onChoose: (path: string) => void;
  readonly onArrange: (arrangement: Arrangement) => void;
}

type Over = { readonly path: string; readonly side: 'before' | 'after' } | 'aside' | undefined;

export function PlanRail({ file, looks, chosen, busy, onChoose, onArrange }: Props): React.ReactNode {
  const steps = stepsOf(file);
  const [over, setOver] = useState<Over>();
  const { scroller, isSeen, onScroll } = useSeen();
  const place = new Map(steps.map((step) => [step.path, step]));
  const { arrangement } = file;
  const drop = (event: React.DragEvent, put: (path: string) => Arrangement): void => {
    const path = event.dataTransfer.getData('text/plain');
    setOver(undefined);
    if (!place.has(path)) return;
    event.preventDefault();
    onArrange(put(path));
  };
  const key = (event: React.KeyboardEvent, step: ArrangedStep): void => {
    const way = ways[event.key];
    if (!way) return;
    event.preventDefault();
    if (!event.altKey) {
      const next = nextIn(steps, step, way);
      if (next) onChoose(next.path);
    } else if (!busy) {
      onArrange(arrangedBy(arrangement, step.path, way));
    }
  };
  const width = WIDTH * Math.max(...steps.map(({ version }) => version));
  const height = HEIGHT * arrangement.length;
  return (
    <>
      <div className="ov-plan" ref={scroller} onScroll={onScroll}>
        <ol className="ov-plan-room" aria-label={`History of ${file.name}`} style={{ width, height }}>
          <Lines steps={steps} place={place} width={width} height={height} />
          {steps
            .filter((step) => isSeen(leftOf(step)))
            .map((step) => (
              <li key={step.path} style={{ left: leftOf(step), top: topOf(step) }}>
                <StepCard
                  step={step}
                  file={file}
                  looks={looks}
                  isChosen={chosen === step.path}
                  isDraggable={!busy}
                  over={typeof over === 'object' && over.path === step.path ? over.side : undefined}
                  onChoose={() => onChoose(step.path)}
                  onKeyDown={(event) => key(event, step)}
                  onOver={(side) => setOver(side && { path: step.path, side })}
                  onDrop={(event, side) =>
                    drop(event, (path) =>
                      side === 'before'
                        ? placedBefore(arrangement, path, step.path)
                        : placedAfter(arrangement, path, step.path),
                    )
                  }
                />
              </li>
            ))}
        </ol>
      </div>
      {!busy && steps.length > 1 && (
        <div
          className={`ov-plan-aside${over === 'aside' ? ' is-over' : ''}`}
          onDragOver={(event) => {
            event.preventDefault();
            setOver('aside');
          }}
          onDragLeave={() => setOver(undefined)}
          onDrop={(event) => drop(event, (path) => aside(arrangement, path))}
        >
          Drag a copy to its right place; here, for a line of its own.
        </div>
      )}
    </>
  );
}

/** Where arrow keys lead: along a line, and across lines. */
interface Way {
  readonly along: -1 | 0 | 1;
  readonly across: -1 | 0 | 1;
}
const ways: Readonly<Record<string, Way>> = {
  ArrowLeft: { along: -1, across: 0 },
  ArrowRight: { along: 1, across: 0 },
  ArrowUp: { along: 0, across: -1 },
  ArrowDown: { along: 0, across: 1 },
};

function arrangedBy(arrangement: Arrangement, path: string, { along, across }: Way): Arrangement {
  if (along !== 0) return moved(arrangement, path, along);
  return across > 0 ? aside(arrangement, path) : arrangement;
}

const nextIn = (steps: readonly ArrangedStep[], from: ArrangedStep, { along, across }: Way): ArrangedStep | undefined =>
  nearestIn(
    steps.filter(({ line, path }) => line === from.line + across && (along === 0 || path !== from.path)),
    from.version + along,
  );

const leftOf = ({ version }: ArrangedStep): number => (version - 1) * WIDTH;
const topOf = ({ line }: ArrangedStep): number => line * HEIGHT;

const nearestIn = (steps: readonly ArrangedStep[], version: number): ArrangedStep | undefined =>
  steps.reduce<ArrangedStep | undefined>(
    (best, step) => (!best || Math.abs(step.version - version) < Math.abs(best.version - version) ? step : best),
    undefined,
  );

/** Which steps are within what is scrolled to, with some room on both sides. */
function useSeen(): {
  readonly scroller: React.RefObject<HTMLDivElement | null>;
  readonly isSeen: (left: number) => boolean;
  readonly onScroll: () => void;
} {
  const scroller = useRef<HTMLDivElement>(null);
  const [window_, setWindow] = useState({ from: 0, to: 2000 });
  const onScroll = (): void => {
    const { scrollLeft = 0, clientWidth = 0 } = scroller.current ?? {};
    const from = Math.floor(scrollLeft / WIDTH) * WIDTH;
    setWindow((before) => (before.from === from ? before : { from, to: from + Math.max(clientWidth, 2000) }));
  };
  return { scroller, onScroll, isSeen: (left) => left > window_.from - 3 * WIDTH && left < window_.to + 3 * WIDTH };
}

interface LinesProps {
  readonly steps: readonly ArrangedStep[];
  readonly place: ReadonlyMap<string, ArrangedStep>;
  readonly width: number;
  readonly height: number;
}

function Lines({ steps, place, width, height }: LinesProps): React.ReactNode {
  return (
    <svg className="ov-plan-lines" width={width} height={height} aria-hidden="true">
      {steps.map((step) => {
        const from = place.get(step.parent ?? '');
        if (!from) return null;
        const [x0, y0, x1, y1] = [
          leftOf(from) + WIDTH / 2,
          topOf(from) + MIDDLE,
          leftOf(step) + WIDTH / 2,
          topOf(step) + MIDDLE,
        ];
        return <path key={step.path} d={`M${x0} ${y0} V${y1} H${x1}`} />;
      })}
    </svg>
  );
}

interface CardProps {
  readonly step: ArrangedStep;
  readonly file: ChosenFile;
  readonly looks: StepLooks;
  readonly isChosen: boolean;
  readonly isDraggable: boolean;
  readonly over: 'before' | 'after' | undefined;
  readonly onChoose: () => void;
  readonly onKeyDown: (event: React.KeyboardEvent) => void;
  readonly onOver: (side: 'before' | 'after' | undefined) => void;
  readonly onDrop: (event: React.DragEvent, side: 'before' | 'after') => void;
}

const sideOf = (event: React.DragEvent): 'before' | 'after' => {
  const box = event.currentTarget.getBoundingClientRect();
  return event.clientX < box.left + box.width / 2 ? 'before' : 'after';
};

function StepCard({ step, file, looks, isChosen, isDraggable, over, ...on }: CardProps): React.ReactNode {
  const { want } = looks;
  const { path, parent, version } = step;
  const look = looks.lookOf(step);
  const card = useRef<HTMLButtonElement>(null);
  useEffect(() => want({ path, parent }), [want, path, parent]);
  useEffect(() => {
    if (isChosen) card.current?.focus({ preventScroll: false });
  }, [isChosen]);
  return (
    <button
      ref={card}
      type="button"
      className={`ov-plan-step${over ? ` is-${over}` : ''}`}
      aria-pressed={isChosen}
      title={path}
      draggable={isDraggable}
      onClick={on.onChoose}
      onKeyDown={on.onKeyDown}
      onDragStart={(event) => event.dataTransfer.setData('text/plain', path)}
      onDragOver={(event) => {
        event.preventDefault();
        on.onOver(sideOf(event));
      }}
      onDragLeave={() => on.onOver(undefined)}
      onDrop={(event) => on.onDrop(event, sideOf(event))}
    >
      <span className="ov-plan-picture">
        {look?.picture ? <img src={look.picture} alt="" /> : <i className="bi bi-file-earmark" aria-hidden="true" />}
      </span>
      <span className="ov-plan-name">
        <span className="ov-mono">v{version}</span> {baseName(path)}
      </span>
      <span className="ov-quiet">{sureOf(file, step)}</span>
      {look?.summary && <span className="ov-plan-summary">{look.summary}</span>}
    </button>
  );
}

function sureOf(file: ChosenFile, step: ArrangedStep): string {
  const proposed = proposedAs(file, step);
  return proposed ? saySure(proposed) : 'placed by you';
}
