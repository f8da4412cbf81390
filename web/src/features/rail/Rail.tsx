'use client';

/** The time line of versions, with the markers A and B. Only what is in sight is drawn. */
import { hasThumbnail } from '../cards.ts';
import { useEffect, useMemo, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { RailColumns } from '../../contract/api.ts';
import { useVersion } from '../files/versions.ts';
import { sayAgo, sayMoment } from '../words.ts';
import { layoutRail, nearestStop, stopsBetween, type Glyph, type Mark, type Scale, type Stop } from './layout.ts';

interface Props {
  readonly fileId: string;
  readonly line: number;
  readonly lines: RailColumns['lines'];
  readonly onLine: (position: number) => void;
  readonly versions: readonly Mark[];
  readonly a: number;
  readonly b: number;
  readonly onMarkers: (numbers: { a?: number; b?: number }) => void;
}

const AXIS = 62;
const OVERSCAN = 300;

export function Rail({ fileId, line, lines, onLine, versions, a, b, onMarkers }: Props): React.ReactNode {
  const scroller = useRef<HTMLDivElement>(null);
  const [scale, setScale] = useState<Scale>('step');
  const [view, setView] = useState({ left: 0, width: 1000 });
  const [peek, setPeek] = useState<Stop>();
  const [drag, setDrag] = useState<{ marker: 'a' | 'b'; x: number }>();
  const layout = useMemo(() => layoutRail(versions, scale, view.width), [versions, scale, view.width]);
  const places = useMemo(
    () => new Map(layout.stops.flatMap((s) => s.sitting.map((v) => [v.number, s.x] as const))),
    [layout],
  );
  const xOf = (number: number): number => places.get(number) ?? 0;
  const xa = xOf(a);
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
  const visible = stopsBetween(layout.stops, view.left - OVERSCAN, view.left + view.width + OVERSCAN);
  const at = (event: React.PointerEvent): number =>
    event.clientX - (scroller.current?.getBoundingClientRect().left ?? 0) + (scroller.current?.scrollLeft ?? 0);
  const marker = (name: 'a' | 'b'): React.ReactNode => (
    <Marker
      name={name}
      number={name === 'a' ? a : b}
      last={versions.at(-1)?.number ?? 1}
      together={together}
      x={drag?.marker === name ? drag.x : name === 'a' ? xa : xb}
      onGrab={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        setPeek(undefined);
        setDrag({ marker: name, x: at(e) });
      }}
      onDrag={(e) => drag?.marker === name && setDrag({ marker: name, x: at(e) })}
      onDrop={(e) => {
        if (drag?.marker !== name) return;
        const stop = nearestStop(layout.stops, at(e));
        setDrag(undefined);
        if (stop) onMarkers({ [name]: stop.version.number });
      }}
      onStep={(by) =>
        onMarkers({
          [name]: Math.min(
            Math.max((name === 'a' ? a : b) + by, versions[0]?.number ?? 1),
            versions.at(-1)?.number ?? 1,
          ),
        })
      }
    />
  );
  return (
    <section className="ov-rail" aria-label="Rail: all versions">
      <div className="ov-rail-side">
        <span>{versions.length === 1 ? '1 version' : `${versions.length.toLocaleString('en')} versions`}</span>
        {lines.length > 1 && (
          <Form.Select size="sm" aria-label="Line" value={line} onChange={(e) => onLine(Number(e.target.value))}>
            {lines.map((l) => (
              <option key={l.position} value={l.position}>
                {l.from === null ? l.name : `${l.name}, from v${l.from}`}
              </option>
            ))}
          </Form.Select>
        )}
        <div role="group" aria-label="Spacing" className="d-flex flex-column gap-1">
          <Button
            size="sm"
            variant="outline-secondary"
            active={scale === 'step'}
            aria-pressed={scale === 'step'}
            onClick={() => setScale('step')}
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
      </div>
      <div
        className="ov-rail-scroll"
        ref={scroller}
        onScroll={(e) => setView({ left: e.currentTarget.scrollLeft, width: e.currentTarget.clientWidth })}
      >
        <svg width={layout.width} height={150} role="group" aria-label="Versions">
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
              key={s.version.number}
              stop={s}
              seen={s.version.number === b}
              onPeek={setPeek}
              onChoose={(shift) =>
                onMarkers(
                  shift
                    ? { a: s.version.number }
                    : together
                      ? { a: s.version.number, b: s.version.number }
                      : { b: s.version.number },
                )
              }
            />
          ))}
          {marker('a')}
          {marker('b')}
        </svg>
      </div>
      {peek && !drag && (
        <Peek
          fileId={fileId}
          line={line}
          stop={peek}
          left={Math.min(Math.max(peek.x - view.left + 110 - 150, 8), Math.max(8, view.width + 110 - 310))}
        />
      )}
    </section>
  );
}

function ArcLine({ from, to, says }: { from: number; to: number; says: string }): React.ReactNode {
  const rise = Math.min(44, 14 + Math.abs(to - from) / 8);
  const top = AXIS - 14;
  return (
    <g role="img" aria-label={says}>
      <title>{says}</title>
      <path className="is-arc" d={`M${from} ${top} C${from} ${top - rise} ${to} ${top - rise} ${to} ${top}`} />
      <path className="is-arrow" d={`M${to} ${top + 4} l-4 -8 h8 z`} />
    </g>
  );
}

function shapeOf(glyph: Glyph, n: number): React.ReactNode {
  switch (glyph) {
    case 'check-in':
      return <rect className="shape" x={-6} y={-6} width={12} height={12} />;
    case 'autosave':
      return <line className="shape" y1={-6} y2={6} />;
    case 'sitting':
      return <rect className="shape" x={-Math.min(18, 6 + n)} y={-3} width={2 * Math.min(18, 6 + n)} height={6} />;
    case 'backup':
      return <path className="shape hollow" d="M0 -8 L8 0 L0 8 L-8 0 Z" />;
    case 'keeper':
      return (
        <>
          <circle className="shape hollow" r={9} />
          <rect className="shape" x={-4} y={-4} width={8} height={8} />
        </>
      );
  }
}

const glyphWords: Readonly<Record<Glyph, string>> = {
  'check-in': 'check-in',
  autosave: 'autosave',
  sitting: 'sitting',
  backup: 'backup',
  keeper: 'keeper',
};

function StopGlyph({
  stop,
  seen,
  onChoose,
  onPeek,
}: {
  stop: Stop;
  seen: boolean;
  onChoose: (shift: boolean) => void;
  onPeek: (stop: Stop | undefined) => void;
}): React.ReactNode {
  const { version: v, glyph } = stop;
  return (
    <g
      className={`is-glyph${seen ? ' is-seen' : ''}`}
      transform={`translate(${stop.x} ${AXIS})`}
      role="button"
      tabIndex={0}
      aria-current={seen || undefined}
      aria-label={`v${v.number}, ${glyphWords[glyph]}${v.title ? ` “${v.title}”` : ''} by ${v.by}, ${sayMoment(v.at)}`}
      onClick={(e) => onChoose(e.shiftKey)}
      onKeyDown={(e) => {
        if (e.key === 'Enter' || e.key === ' ') {
          e.preventDefault();
          onChoose(e.shiftKey);
        }
      }}
      onPointerEnter={() => onPeek(stop)}
      onPointerLeave={() => onPeek(undefined)}
      onFocus={(e) => e.currentTarget.matches(':focus-visible') && onPeek(stop)}
      onBlur={() => onPeek(undefined)}
    >
      <rect className="hit" x={-14} y={-14} width={28} height={28} />
      {shapeOf(glyph, stop.sitting.length)}
      {v.title && (
        <text className="is-title" x={-9} y={-18} textAnchor="start">
          {v.title.length > 24 ? `${v.title.slice(0, 23)}…` : v.title}
        </text>
      )}
      <text className="is-number" y={28} textAnchor="middle">
        v{v.number}
      </text>
    </g>
  );
}

interface MarkerProps {
  readonly name: 'a' | 'b';
  readonly number: number;
  readonly last: number;
  readonly together: boolean;
  readonly x: number;
  readonly onGrab: (e: React.PointerEvent<SVGGElement>) => void;
  readonly onDrag: (e: React.PointerEvent<SVGGElement>) => void;
  readonly onDrop: (e: React.PointerEvent<SVGGElement>) => void;
  readonly onStep: (by: number) => void;
}

function Marker({ name, number, last, together, x, onGrab, onDrag, onDrop, onStep }: MarkerProps): React.ReactNode {
  // Together the two markers stand beside one another, A on the left.
  const shift = together ? (name === 'a' ? -12 : 12) : 0;
  const letter = name.toUpperCase();
  return (
    <g
      className={`is-marker is-${name}`}
      transform={`translate(${x} 0)`}
      role="slider"
      tabIndex={0}
      aria-label={`Marker ${letter}`}
      aria-valuemin={1}
      aria-valuemax={last}
      aria-valuenow={number}
      aria-valuetext={`v${number}`}
      onPointerDown={onGrab}
      onPointerMove={onDrag}
      onPointerUp={onDrop}
      onPointerCancel={onDrop}
      onKeyDown={(e) => {
        const by = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0;
        if (by) {
          e.preventDefault();
          e.stopPropagation();
          onStep(by);
        }
      }}
    >
      <title>{`Marker ${letter}: drag to another version to compare`}</title>
      <line x1={shift} x2={shift} y1={AXIS + 34} y2={AXIS + 40} />
      <rect x={shift - 11} y={AXIS + 38} width={22} height={22} />
      <text x={shift} y={AXIS + 53} textAnchor="middle">
        {letter}
      </text>
    </g>
  );
}

function Peek({
  fileId,
  line,
  stop: { version: v, sitting },
  left,
}: {
  fileId: string;
  line: number;
  stop: Stop;
  left: number;
}): React.ReactNode {
  const [broken, setBroken] = useState<string>();
  const full = useVersion(fileId, line, v.number);
  return (
    <div className="ov-peek" style={{ left }} role="tooltip">
      {full && broken !== full.id && hasThumbnail(full.format) && (
        <img src={`/api/v1/versions/${full.id}/thumbnail?side=320`} alt="" onError={() => setBroken(full.id)} />
      )}
      <p>
        <span className="ov-mono">v{v.number}</span> {v.title ? <strong>{v.title}</strong> : null} {v.by}
      </p>
      <p className="ov-quiet">
        {sayMoment(v.at)}, {sayAgo(v.at)}
        {sitting.length > 1 ? `; ${sitting.length} autosaves` : ''}
      </p>
      {full?.note && <p>{full.note}</p>}
      {full?.summary && <p className="ov-quiet">{full.summary}</p>}
    </div>
  );
}
