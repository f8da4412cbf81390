'use client';

/** The time line of versions, with the markers A and B. Only what is in sight is drawn. */
import { plural } from '@ovrel/core/plural';
import { useEffect, useMemo, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { Proposal } from '../../contract/proposals.ts';
import { hasThumbnail } from '../cards.ts';
import { Film } from '../film/Film.tsx';
import { useFileActs } from '../files/state/acts.tsx';
import { useShown } from '../files/state/shown.tsx';
import { FilterBar } from '../filter/FilterBar.tsx';
import { isFiltering } from '../filter/filter.ts';
import { ArcLine, AXIS, StopGlyph } from './glyphs.tsx';
import { sayGoing } from '../keeping/keep.ts';
import { useGoing } from '../keeping/useGoing.ts';
import { layoutRail, pauseOf, nearestStop, stopsBetween, type Mark, type Scale, type Stop } from './layout.ts';
import { Lanes } from './Lanes.tsx';
import { layoutLanes, RAIL_HEIGHT } from './lanes.ts';
import { LineChoice } from './LineChoice.tsx';
import { Marker } from './Marker.tsx';
import { Peek } from './Peek.tsx';

const OVERSCAN = 300;
/** Taller than this the rail is scrolled. */
const MOST_HEIGHT = RAIL_HEIGHT + 96;

const proposedMark = ({ version, source }: Proposal): Mark => ({
  id: version.id,
  number: version.number,
  kind: version.kind,
  title: null,
  at: Date.parse(version.at),
  by: version.by.name,
  person: version.by.id,
  isProposed: true,
  source: { id: source.versionId, number: source.number },
});

export function Rail(): React.ReactNode {
  const {
    file,
    columns,
    marks,
    every,
    railFilter,
    setRailFilter,
    passing,
    a: ownA,
    b: shownB,
    other,
    proposal,
    move,
    goToLine,
    beside,
  } = useShown();
  const versions = useMemo(() => (proposal ? [...marks, proposedMark(proposal)] : marks), [marks, proposal]);
  const { open } = useFileActs();
  const b = shownB.id;
  const a = other ? b : ownA.id;
  const scroller = useRef<HTMLDivElement>(null);
  const [scale, setScale] = useState<Scale>('even');
  const [view, setView] = useState({ left: 0, width: 1000 });
  const [peek, setPeek] = useState<Stop>();
  const [isFilterOpen, setIsFilterOpen] = useState(false);
  const [drag, setDrag] = useState<{ marker: 'a' | 'b'; x: number }>();
  const pause = pauseOf(columns);
  const layout = useMemo(
    () => layoutRail(versions, { scale, room: view.width, pause }),
    [versions, scale, view.width, pause],
  );
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const lanes = useMemo(() => layoutLanes(columns, layout, folded, passing), [columns, layout, folded, passing]);
  const fold = (line: string): void =>
    setFolded((before) =>
      before.has(line) ? new Set([...before].filter((l) => l !== line)) : new Set([...before, line]),
    );
  const places = useMemo(
    () => new Map(layout.stops.flatMap((s) => s.sitting.map((v) => [v.id, s.x] as const))),
    [layout],
  );
  const xOf = (id: string): number => places.get(id) ?? 0;
  const xb = xOf(b);
  const together = a === b;
  useEffect(() => {
    const el = scroller.current;
    if (!el) return undefined;
    const measure = (): void => setView({ left: el.scrollLeft, width: el.clientWidth });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(el);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    const el = scroller.current;
    if (el && (xb < el.scrollLeft + 40 || xb > el.scrollLeft + el.clientWidth - 60))
      el.scrollLeft = xb - el.clientWidth / 2;
  }, [xb, scale, view.width]);
  const going = useGoing(file.id);
  const visible = stopsBetween(layout.stops, view.left - OVERSCAN, view.left + view.width + OVERSCAN);
  const at = (event: React.PointerEvent): number =>
    event.clientX - (scroller.current?.getBoundingClientRect().left ?? 0) + (scroller.current?.scrollLeft ?? 0);
  const marker = (name: 'a' | 'b'): React.ReactNode => {
    const own = name === 'a' ? a : b;
    const dragged = drag?.marker === name;
    return (
      <Marker
        name={name}
        at={versions.findIndex((v) => v.id === own)}
        versions={versions}
        together={together}
        x={dragged ? drag.x : xOf(own)}
        onGrab={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          setPeek(undefined);
          setDrag({ marker: name, x: at(e) });
        }}
        onDrag={(e) => {
          if (dragged) setDrag({ marker: name, x: at(e) });
        }}
        onDrop={(e) => {
          if (!dragged) return;
          const stop = nearestStop(layout.stops, at(e));
          setDrag(undefined);
          if (stop) move({ [name]: stop.version.id });
        }}
        onStep={(by) => {
          const next = beside(own, by);
          if (next) move({ [name]: next.id });
        }}
      />
    );
  };
  const choose = (id: string, shift: boolean): void => {
    if (shift) move({ a: id });
    else move(together ? { a: id, b: id } : { b: id });
  };
  return (
    <section className="ov-rail" aria-label="Rail: all versions">
      <div className="ov-rail-side">
        <span>{sayShown(marks.length, every.length)}</span>
        <LineChoice columns={columns} onLine={goToLine} />
        <div role="group" aria-label="Spacing" className="d-flex flex-column gap-1">
          <Button
            size="sm"
            variant="outline-secondary"
            active={scale === 'even'}
            aria-pressed={scale === 'even'}
            onClick={() => setScale('even')}
          >
            By step
          </Button>
          <Button
            size="sm"
            variant="outline-secondary"
            active={scale === 'time'}
            aria-pressed={scale === 'time'}
            onClick={() => setScale('time')}
          >
            By time
          </Button>
        </div>
        {hasThumbnail(shownB.format) && (
          <Button size="sm" variant="outline-secondary" title="Key v" onClick={() => open(<Film />)}>
            Play
          </Button>
        )}
        <Button
          size="sm"
          variant="outline-secondary"
          active={isFiltering(railFilter)}
          aria-expanded={isFilterOpen}
          onClick={() => setIsFilterOpen(!isFilterOpen)}
        >
          Filter
        </Button>
      </div>
      {isFilterOpen && (
        <div className="ov-rail-filter">
          <FilterBar
            filter={railFilter}
            people={columns.people}
            filteredOut={every.length - marks.length + lanes.filteredOut}
            what="version"
            onChange={setRailFilter}
          />
        </div>
      )}
      <div
        className="ov-rail-scroll"
        ref={scroller}
        style={{ height: Math.min(lanes.height, MOST_HEIGHT) }}
        onScroll={(e) => setView({ left: e.currentTarget.scrollLeft, width: e.currentTarget.clientWidth })}
      >
        <svg width={lanes.width} height={lanes.height} role="group" aria-label="Versions">
          <Lanes
            layout={lanes}
            from={view.left - OVERSCAN}
            to={view.left + view.width + OVERSCAN}
            onFold={fold}
            onChoose={(line, id, compare) => move(compare ? { other: id } : { line, a: id, b: id })}
          />
          <line className="is-axis" x1={12} x2={layout.width - 12} y1={AXIS} y2={AXIS} />
          {layout.dates
            .filter((d) => d.x > view.left - OVERSCAN && d.x < view.left + view.width + OVERSCAN)
            .map((d) => (
              <g key={d.x}>
                <line className="is-tick" x1={d.x} x2={d.x} y1={AXIS + 8} y2={AXIS + 24} />
                <text className="is-date" x={d.x} y={142} textAnchor="middle">
                  {d.text}
                </text>
              </g>
            ))}
          {layout.arcs
            .filter(
              (r) =>
                Math.max(r.from, r.to) > view.left - OVERSCAN &&
                Math.min(r.from, r.to) < view.left + view.width + OVERSCAN,
            )
            .map((r) => (
              <ArcLine key={`${r.from}-${r.to}`} {...r} />
            ))}
          {visible.map((s) => (
            <StopGlyph
              key={s.version.id}
              stop={s}
              seen={s.version.id === b}
              goes={sayStopGoes(s, going)}
              onPeek={setPeek}
              onChoose={(shift) => choose(s.version.id, shift)}
            />
          ))}
          {marker('a')}
          {marker('b')}
        </svg>
      </div>
      {peek && !drag && (
        <Peek
          fileId={file.id}
          line={columns.line}
          stop={peek}
          goes={sayStopGoes(peek, going)}
          left={Math.min(Math.max(peek.x - view.left + 110 - 150, 8), Math.max(8, view.width + 110 - 310))}
        />
      )}
    </section>
  );
}

const sayShown = (shown: number, all: number): string =>
  shown === all ? plural(all, 'version') : `${shown.toLocaleString('en')} of ${plural(all, 'version')}`;

/** When what a stop stands for goes by the keeping rules; undefined: all of it stays. */
function sayStopGoes({ sitting }: Stop, going: ReadonlyMap<string, string>): string | undefined {
  const moments = sitting.flatMap(({ id }) => going.get(id) ?? []).sort();
  const [first] = moments;
  if (first === undefined) return undefined;
  const when = sayGoing(first);
  if (sitting.length === 1) return `goes: ${when}`;
  const some = moments.length === sitting.length ? 'all' : String(moments.length);
  return `${some} of its saves go, the first: ${when}`;
}
