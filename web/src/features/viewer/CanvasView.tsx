'use client';

import { cardOfVersion } from '../cards.ts';
import { useEffect, useMemo, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import DropdownButton from 'react-bootstrap/DropdownButton';
import DropdownItem from 'react-bootstrap/DropdownItem';
import type { Change } from '@ovrel/core/contract';
import { useKeys } from '../frame/keys.tsx';
import { fit, flyTo, type Box, type Camera } from './camera.ts';
import { sayMeasured, type Spot } from './measure.ts';
import { layerRows, type LayerRow } from './layer-rows.ts';
import { layerList, Layers } from './Layers.tsx';
import { LayerTree } from './LayerTree.tsx';
import { heatColour, HEAT_MOST, legend, lookNames, looksFor, signOf, type Look } from './looks.ts';
import { Loupe } from './Loupe.tsx';
import type { Scene } from './paint.ts';
import { useStage } from './stage.ts';
import { printPicture, savePdf, savePicture } from './export.ts';
import { drawnFromParts, throughBox, useSheet } from './useSheet.ts';
import { useDetail } from './useDetail.ts';
import { differenceAt, useHeat } from './useDifference.ts';
import type { ViewerProps } from './Viewer.tsx';

/** Milliseconds that blinking shows each side. */
const paces = [
  ['slow', 1400],
  ['even', 700],
  ['quick', 250],
] as const;
const noSwitches: ReadonlyMap<string, boolean> = new Map();
const none: readonly Change[] = [];
const noRows: readonly LayerRow[] = [];
/** Places of pictures are drawn as their boxes. */
const noOutlines = {};
const noSpots: readonly Spot[] = [];

const onPage = (changes: readonly Change[], page: string | undefined): readonly Change[] =>
  page === undefined ? changes : changes.filter((c) => c.part.page === page);

const boxOf = (box: readonly number[] | undefined): Box | undefined =>
  box?.length === 4 ? (box as unknown as Box) : undefined;

/** `waiting`: B is shown alone, and its comparison with A is on the way. */
export function CanvasView(props: ViewerProps & { readonly waiting: boolean }): React.ReactNode {
  const { a, b, comparing, detail, result, shown, selected, onSelect, look, onLook, onStepChange } = props;
  const pixels = comparing ? result?.comparison.level !== 'parts' : detail?.look.level !== 'parts';
  const [asked, setPage] = useState<string>();
  const touched = useMemo(() => (comparing && result ? firstTouched(result) : undefined), [comparing, result]);
  const { names, page, atA, atB } = pagesOf(comparing, detail, result, asked ?? touched);
  const onlyPage = names.length > 1 ? page : undefined;
  const boxB = boxOf(
    comparing
      ? ((atB === undefined ? undefined : result?.picture.pages.b[atB]?.box) ?? result?.picture.pageB?.box)
      : ((atB === undefined ? undefined : detail?.look.pageBoxes[atB]) ?? detail?.look.page?.box),
  );
  const boxA = boxOf((atA === undefined ? undefined : result?.picture.pages.a[atA]?.box) ?? result?.picture.pageA?.box);
  const drawn = comparing ? result?.picture.drawn : undefined;
  const layersOf = comparing ? result?.picture.layers : undefined;
  const own = detail?.look.layers;
  const rows = useMemo(
    () =>
      layersOf
        ? layerRows(layersOf, result?.comparison.changes ?? none)
        : !comparing && own
          ? layerRows({ a: [], b: own, pairs: [] }, none)
          : noRows,
    [layersOf, own, comparing, result],
  );
  const [askedRow, setAlone] = useState<LayerRow>();
  const alone = askedRow && rows.find((r) => r.a === askedRow.a && r.b === askedRow.b);
  const {
    sheet: plainB,
    broken,
    head,
  } = useSheet(alone && alone.b === undefined ? undefined : b, pixels ? undefined : boxB, atB, undefined, {
    layer: alone?.b,
    drawn: drawn?.b,
  });
  const [apart, setApart] = useState(false);
  const laid = comparing && pixels ? (result?.picture.laid ?? result?.picture.laidOn?.[page ?? '']) : undefined;
  const moved = laid !== undefined && !same(laid.matrix);
  const overlaid = laid && !apart ? laid.matrix : undefined;
  const { sheet: plainA, head: headA } = useSheet(
    comparing && !(alone && alone.a === undefined) ? a : undefined,
    pixels ? undefined : boxA,
    atA,
    overlaid,
    { layer: alone?.a, drawn: drawn?.a },
  );
  const [rest, setRest] = useState<Camera>();
  const [size, setSize] = useState<{ width: number; height: number }>();
  const sheetB = useDetail(b, drawn ? undefined : atB, plainB, rest, size);
  const sheetA = useDetail(comparing ? a : undefined, drawn ? undefined : atA, plainA, rest, size);
  const heat = useHeat(props.difference, comparing && look === 'heat');
  const [pointer, setPointer] = useState<readonly [number, number]>();
  const [magnifying, setMagnifying] = useState(false);
  const [pace, setPace] = useState<number>(700);
  const looks = looksFor(laid !== undefined && result?.picture.laidOn === undefined);
  const layers = useMemo(() => layerList([head, headA]), [head, headA]);
  const [switched, setSwitched] = useState<ReadonlyMap<string, boolean>>(noSwitches);
  const [listing, setListing] = useState(false);
  useEffect(() => {
    for (const [sheet, of] of [
      [sheetB, head],
      [sheetA, headA],
    ] as const)
      sheet?.renderer?.hide(new Set(of?.layers.flatMap((l, i) => (switched.get(l.name) === true ? [i] : []))));
  }, [sheetA, sheetB, head, headA, switched]);
  const canvas = useRef<HTMLCanvasElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const [curtain, setCurtain] = useState(0.5);
  const [blinkA, setBlinkA] = useState(false);
  const [paused, setPaused] = useState(false);
  const viewWidth = size && comparing && look === 'side' ? size.width / 2 : size?.width;
  const [p0, p1, p2, p3] = sheetB?.box ?? sheetA?.box ?? [];
  const whole = useMemo(
    () =>
      p0 !== undefined && viewWidth && size
        ? fit([p0, p1 as number, p2 as number, p3 as number], viewWidth, size.height)
        : undefined,
    [p0, p1, p2, p3, viewWidth, size],
  );
  const [measuring, setMeasuring] = useState(false);
  const [spots, setSpots] = useState<readonly Spot[]>(noSpots);
  const unit = head?.unit ?? detail?.look.units ?? result?.comparison.unit ?? '';
  const millimetres = head?.unitMillimetres ?? detail?.look.page?.unitMillimetres ?? undefined;
  const measure = (): void => {
    setSpots(noSpots);
    setMeasuring((x) => !x);
  };
  const placed = useMemo(
    () =>
      overlaid
        ? shown.map((c) =>
            c.boxA
              ? {
                  ...c,
                  boxA: throughBox(overlaid, c.boxA[2], c.boxA[3], c.boxA[0], c.boxA[1]) as NonNullable<Change['boxA']>,
                }
              : c,
          )
        : shown,
    [shown, overlaid],
  );
  const here = comparing ? onPage(placed, onlyPage).filter((c) => !alone || c.part.category === alone.name) : none;
  const scene: Scene = {
    look,
    a: sheetA,
    b: sheetB,
    comparing,
    changes: here,
    outlines: laid ? noOutlines : (result?.picture.outlines ?? noOutlines),
    pixels,
    heat,
    selected,
    pulse: 1,
    curtain,
    blinkA,
    switched,
    measure: measuring ? { points: spots, words: sayMeasured(spots, unit, millimetres) } : undefined,
    pins: onlyPage === undefined ? props.pins : props.pins.filter((p) => p.page === onlyPage),
    area: comparing ? props.area : undefined,
  };
  const stage = useStage(canvas, size, scene, whole, setRest);

  useEffect(() => {
    const el = frame.current;
    if (!el) return undefined;
    const observer = new ResizeObserver(() => setSize({ width: el.clientWidth, height: el.clientHeight }));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    if (!comparing || look !== 'blink' || paused) return undefined;
    const timer = setInterval(() => setBlinkA((x) => !x), pace);
    return () => clearInterval(timer);
  }, [comparing, look, paused, pace]);
  useEffect(() => {
    if (props.page) setPage(props.page.name);
  }, [props.page]);
  const chosen = comparing ? placed.find((c) => c.id === selected) : undefined;
  useEffect(() => {
    if (chosen?.part.page) setPage(chosen.part.page);
  }, [chosen]);
  useEffect(() => {
    const boxes = [chosen?.boxA, chosen?.boxB].filter((x): x is NonNullable<typeof x> => Boolean(x));
    if (!boxes.length || !whole || !viewWidth || !size) return;
    const target = boxes.reduce<Box>(
      (s, x) => [Math.min(s[0], x[0]), Math.min(s[1], x[1]), Math.max(s[2], x[2]), Math.max(s[3], x[3])],
      boxes[0] as Box,
    );
    stage.fly(flyTo(target, whole, viewWidth, size.height));
  }, [chosen, whole, viewWidth, size, stage]);

  const around = props.focus ? extentOf(here) : undefined;
  const [a0, a1, a2, a3] = around ?? [];
  useEffect(() => {
    if (a0 === undefined || !whole || !viewWidth || !size) return;
    stage.fly(flyTo([a0, a1 as number, a2 as number, a3 as number], whole, viewWidth, size.height, 0.12));
  }, [a0, a1, a2, a3, whole, viewWidth, size, stage]);

  const centre = (): readonly [number, number] => [(viewWidth ?? 0) / 2, (size?.height ?? 0) / 2];
  const saveSeen = (at: number): void => {
    const from = stage.toPage(0, 0);
    const to = viewWidth && size && stage.toPage(viewWidth, size.height);
    if (from && to)
      window.location.assign(
        `/api/v1/versions/${b.id}/view?page=${at}&box=${[...from, ...to].map((v) => Number(v.toPrecision(9))).join(',')}&download=yes`,
      );
  };
  const chooseLook = (next: Look): void => onLook(next);
  useKeys([
    { key: '+', says: 'Closer', run: () => stage.zoom(1.25, ...centre()) },
    { key: '-', says: 'Further away', run: () => stage.zoom(0.8, ...centre()) },
    ...(pixels ? [{ key: 'g', says: 'Magnify what is under the pointer', run: () => setMagnifying((x) => !x) }] : []),
    { key: 'd', says: 'Measure distances and areas', run: measure },
    { key: '0', says: 'Whole page', run: () => whole && stage.fly(whole) },
    ...(comparing ? looks.map((l, i) => ({ key: String(i + 1), says: lookNames[l], run: () => chooseLook(l) })) : []),
    ...(comparing && look === 'blink'
      ? [{ key: ' ', says: 'Stop or go on blinking', run: () => setPaused((x) => !x) }]
      : []),
  ]);
  return (
    <>
      <div className="ov-bar">
        {comparing &&
          looks.map((l, i) => (
            <Button
              key={l}
              size="sm"
              variant="outline-secondary"
              active={look === l}
              aria-pressed={look === l}
              onClick={() => chooseLook(l)}
              title={`Key ${i + 1}`}
            >
              {lookNames[l]}
            </Button>
          ))}
        {comparing && look === 'blink' && (
          <Button size="sm" variant="outline-secondary" onClick={() => setPaused((x) => !x)}>
            {paused ? 'Go on' : 'Stop'}
          </Button>
        )}
        {comparing && look === 'blink' && (
          <select
            className="form-select form-select-sm ov-pages"
            aria-label="Pace"
            value={pace}
            onChange={(e) => setPace(Number(e.target.value))}
          >
            {paces.map(([name, ms]) => (
              <option key={name} value={ms}>
                {name}
              </option>
            ))}
          </select>
        )}
        {moved && (
          <Button
            size="sm"
            variant="outline-secondary"
            active={!apart}
            aria-pressed={!apart}
            onClick={() => setApart((x) => !x)}
            title="A is moved, turned and scaled so that it lies over B"
          >
            Laid over
          </Button>
        )}
        {pixels && (
          <Button
            size="sm"
            variant="outline-secondary"
            active={magnifying}
            aria-pressed={magnifying}
            onClick={() => setMagnifying((x) => !x)}
            title="Key g"
          >
            Magnify
          </Button>
        )}
        {names.length > 1 && (
          <select
            className="form-select form-select-sm ov-pages"
            aria-label="Page"
            value={page}
            onChange={(e) => setPage(e.target.value)}
          >
            {names.map((n) => (
              <option key={n}>{n}</option>
            ))}
          </select>
        )}
        {rows.length > 0 && (
          <Button
            size="sm"
            variant="outline-secondary"
            active={listing}
            aria-expanded={listing}
            onClick={() => setListing((x) => !x)}
          >
            {alone ? `Layer: ${alone.name}` : 'Layers'}
          </Button>
        )}
        {layers.length > 0 && (
          <Button
            size="sm"
            variant="outline-secondary"
            active={listing}
            aria-expanded={listing}
            onClick={() => setListing((x) => !x)}
          >
            Layers
          </Button>
        )}
        <Button
          size="sm"
          variant="outline-secondary"
          active={measuring}
          aria-pressed={measuring}
          onClick={measure}
          title="Key d"
        >
          Measure
        </Button>
        {measuring && (
          <span className="ov-quiet" role="status">
            {spots.length > 1 ? sayMeasured(spots, unit, millimetres) : 'Click on two points, or on more for an area'}
          </span>
        )}
        {measuring && spots.length > 0 && (
          <Button size="sm" variant="outline-secondary" onClick={() => setSpots(noSpots)}>
            Anew
          </Button>
        )}
        <span className="is-push" />
        {comparing && shown.length > 0 && (
          <>
            <Button
              size="sm"
              variant="outline-secondary"
              onClick={() => onStepChange(-1)}
              title="Key P"
              aria-label="Previous change"
            >
              Previous
            </Button>
            <Button
              size="sm"
              variant="outline-secondary"
              onClick={() => onStepChange(1)}
              title="Key N"
              aria-label="Next change"
            >
              Next
            </Button>
          </>
        )}
        <Button
          size="sm"
          variant="outline-secondary"
          aria-label="Further away"
          title="Key −"
          onClick={() => stage.zoom(0.8, ...centre())}
        >
          −
        </Button>
        <Button
          size="sm"
          variant="outline-secondary"
          aria-label="Closer"
          title="Key +"
          onClick={() => stage.zoom(1.25, ...centre())}
        >
          +
        </Button>
        <Button size="sm" variant="outline-secondary" title="Key 0" onClick={() => whole && stage.fly(whole)}>
          Whole page
        </Button>
        <DropdownButton size="sm" variant="outline-secondary" align="end" title="Save …">
          <DropdownItem
            as="button"
            onClick={() => canvas.current && savePicture(canvas.current, `${props.file.name} v${b.number}`)}
          >
            What is seen, as PNG
          </DropdownItem>
          <DropdownItem
            as="button"
            onClick={() => canvas.current && void savePdf(canvas.current, `${props.file.name} v${b.number}`)}
          >
            What is seen, as PDF
          </DropdownItem>
          {cardOfVersion(b)?.layers && !cardOfVersion(b)?.writes && detail?.look.layers.length ? (
            <DropdownItem href={`/api/v1/versions/${b.id}/view?as=ora`} download>
              The picture, as OpenRaster
            </DropdownItem>
          ) : null}
          {alone?.b !== undefined && (
            <DropdownItem
              href={`/api/v1/versions/${b.id}/view?layer=${alone.b}`}
              download={`${props.file.name} v${b.number} ${alone.name}.png`}
            >
              The layer, as PNG
            </DropdownItem>
          )}
          {drawnFromParts(b) && atB !== undefined && (
            <DropdownItem as="button" onClick={() => saveSeen(atB)}>
              What is seen, as SVG
            </DropdownItem>
          )}
          {drawnFromParts(b) && atB !== undefined && (
            <DropdownItem
              href={`/api/v1/versions/${b.id}/view?page=${atB}`}
              download={`${props.file.name} v${b.number}.svg`}
            >
              The page, as SVG
            </DropdownItem>
          )}
          <DropdownItem
            as="button"
            onClick={() => canvas.current && printPicture(canvas.current, `${props.file.name} v${b.number}`)}
          >
            Print what is seen
          </DropdownItem>
        </DropdownButton>
      </div>
      <div className="ov-canvas" ref={frame}>
        <canvas
          ref={canvas}
          tabIndex={0}
          role="img"
          aria-label={comparing ? `v${a.number} and v${b.number}, ${lookNames[look]}` : `v${b.number}`}
          data-drawn={Boolean(sheetB)}
          data-ready={Boolean(
            !props.waiting &&
            (sheetB || atB === undefined || (alone && alone.b === undefined)) &&
            (!comparing || sheetA || atA === undefined || (alone && alone.a === undefined)) &&
            (sheetA || sheetB),
          )}
          style={props.pointing || measuring || magnifying ? { cursor: 'crosshair' } : undefined}
          onPointerMove={(e) => magnifying && setPointer(stage.toPage(e.nativeEvent.offsetX, e.nativeEvent.offsetY))}
          onClick={(e) => {
            const [px, py] = [e.nativeEvent.offsetX, e.nativeEvent.offsetY];
            const place = stage.toPage(px, py);
            const spot = measuring && !stage.dragged() ? stage.snapped(px, py) : undefined;
            if (spot) return setSpots((all) => [...all, spot]);
            if (props.pointing && place && !stage.dragged())
              return props.onPlace(page ?? '', place[0], place[1], 8 / stage.scale());
            if (!stage.dragged() && stage.mapTo(px, py)) return;
            const pin = stage.dragged() ? undefined : stage.pinAt(px, py);
            if (pin) return props.onPin(pin);
            const id =
              comparing && !stage.dragged() ? stage.pick(e.nativeEvent.offsetX, e.nativeEvent.offsetY) : undefined;
            if (id) onSelect(id);
          }}
        />
        {comparing && props.drawing && <AreaPen toPage={stage.toPage} onArea={props.onArea} />}
        {comparing && look === 'curtain' && size && <Curtain at={curtain} width={size.width} onMove={setCurtain} />}
        {comparing && look === 'side' && (
          <>
            <span className="ov-tag is-a">A v{a.number}</span>
            <span className="ov-tag is-b is-mid">B v{b.number}</span>
          </>
        )}
        {comparing && look === 'curtain' && (
          <>
            <span className="ov-tag is-a">A v{a.number}</span>
            <span className="ov-tag is-b">B v{b.number}</span>
          </>
        )}
        {comparing && look === 'blink' && (
          <span className={`ov-tag ${blinkA ? 'is-a' : 'is-b'}`}>{blinkA ? `A v${a.number}` : `B v${b.number}`}</span>
        )}
        {magnifying && pointer && <Loupe a={comparing ? sheetA : undefined} b={sheetB} at={pointer} />}
        {listing && rows.length > 0 && <LayerTree rows={rows} alone={alone} onAlone={setAlone} />}
        {listing && layers.length > 0 && <Layers layers={layers} switched={switched} onSwitch={setSwitched} />}
        {props.waiting && (
          <span className="ov-tag is-b" role="status">
            Comparing v{a.number} with v{b.number} …
          </span>
        )}
        {head && (head.reduced ?? (cardOfVersion(b)?.crowd ? true : undefined)) && (
          <span className="ov-tag is-low">
            {head.reduced ??
              'Drawn from its outlines, because it is large: gradients, clips and pictures are simplified.'}
          </span>
        )}
        {broken && (
          <div className="ov-waiting" role="alert">
            <div>
              v{b.number} is kept and can be downloaded, but it is not shown here: {broken}
            </div>
          </div>
        )}
        {!broken && !sheetB && atB !== undefined && !(alone && alone.b === undefined) && (
          <div className="ov-waiting" role="status">
            <div>Drawing v{b.number} …</div>
          </div>
        )}
      </div>
      {comparing && (
        <div className="ov-legend" aria-label="Legend">
          {look === 'heat' && (
            <HeatLegend at={pointer && props.difference ? differenceAt(props.difference, ...pointer) : undefined} />
          )}
          {pixels && !laid && (
            <span>
              {look === 'overlay' || look === 'only'
                ? 'White: equal in A and B. Darker or coloured: different pixels.'
                : 'Pictures are shown as they are; only their bytes were compared.'}
            </span>
          )}
          {pixels && laid && look === 'overlay' && (
            <span>
              <span className="ov-swatch" style={{ background: '#B45309' }} /> only A is dark here{' '}
              <span className="ov-swatch" style={{ background: '#0F766E' }} /> only B is
            </span>
          )}
          {(!pixels || laid) && (
            <>
              {legend.map(([kind, says]) => (
                <span key={kind}>
                  <span className={`ov-sign ov-${kind}`}>{signOf[kind]}</span> {says}
                </span>
              ))}
              {look === 'overlay' && <span className="ov-quiet">{pixels ? '' : 'faint: untouched'}</span>}
            </>
          )}
        </div>
      )}
    </>
  );
}

const same = (m: readonly number[]): boolean => [1, 0, 0, 1, 0, 0].every((v, k) => v === m[k]);

function HeatLegend({ at }: { at: number | undefined }): React.ReactNode {
  const stops = Array.from({ length: 24 }, (_, k) => `rgb(${heatColour((HEAT_MOST * k) / 23).join(' ')})`);
  return (
    <span className="ov-heat">
      0 <span style={{ background: `linear-gradient(90deg, ${stops.join(', ')})` }} /> {HEAT_MOST} and more (CIEDE2000)
      {at === undefined ? '' : `, here ${at.toFixed(1)}`}
    </span>
  );
}

/** Pages of what is shown, by name; and where the chosen one stands in A and in B. */
function pagesOf(
  comparing: boolean,
  detail: ViewerProps['detail'],
  result: ViewerProps['result'],
  asked: string | undefined,
): { names: readonly string[]; page: string | undefined; atA: number | undefined; atB: number | undefined } {
  const inB = (comparing ? result?.picture.pages.b.map((p) => p.name) : detail?.look.pages) ?? [];
  const inA = result?.picture.pages.a.map((p) => p.name) ?? [];
  const names = comparing ? [...inB, ...inA.filter((n) => !inB.includes(n))] : inB;
  const page = asked !== undefined && names.includes(asked) ? asked : names[0];
  const at = (all: readonly string[]): number | undefined =>
    page === undefined || !all.includes(page) ? undefined : all.indexOf(page);
  return { names, page, atA: at(inA), atB: at(inB) };
}

/** The first page on which anything changed: a set of many sheets is opened there. */
function firstTouched({ comparison, picture }: NonNullable<ViewerProps['result']>): string | undefined {
  if (picture.pages.b.length < 2) return undefined;
  const touched = new Set(comparison.changes.map((c) => c.part.page));
  return picture.pages.b.find((p) => touched.has(p.name))?.name;
}

/** Everything that some changes touch. */
function extentOf(changes: readonly Change[]): Box | undefined {
  const boxes = changes.flatMap((c) => [c.boxA, c.boxB]).filter((x): x is NonNullable<typeof x> => x !== null);
  const [first] = boxes;
  return (
    first &&
    boxes.reduce<Box>(
      (s, x) => [Math.min(s[0], x[0]), Math.min(s[1], x[1]), Math.max(s[2], x[2]), Math.max(s[3], x[3])],
      first,
    )
  );
}

/** A sheet over the page on which a rectangle is drawn. */
function AreaPen({
  toPage,
  onArea,
}: {
  toPage: (x: number, y: number) => readonly [number, number] | undefined;
  onArea: (area: Box) => void;
}): React.ReactNode {
  const [from, setFrom] = useState<readonly [number, number]>();
  const [to, setTo] = useState<readonly [number, number]>();
  const at = (e: React.PointerEvent): readonly [number, number] => [e.nativeEvent.offsetX, e.nativeEvent.offsetY];
  const finish = (e: React.PointerEvent): void => {
    const p = from && toPage(...from);
    const q = toPage(...at(e));
    if (p && q && (p[0] !== q[0] || p[1] !== q[1]))
      onArea([Math.min(p[0], q[0]), Math.min(p[1], q[1]), Math.max(p[0], q[0]), Math.max(p[1], q[1])]);
    setFrom(undefined);
  };
  return (
    <div
      className="ov-area"
      role="application"
      aria-label="Draw a rectangle around what you want to see"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        setFrom(at(e));
        setTo(at(e));
      }}
      onPointerMove={(e) => from && setTo(at(e))}
      onPointerUp={finish}
    >
      {from && to && (
        <div
          style={{
            left: Math.min(from[0], to[0]),
            top: Math.min(from[1], to[1]),
            width: Math.abs(from[0] - to[0]),
            height: Math.abs(from[1] - to[1]),
          }}
        />
      )}
    </div>
  );
}

function Curtain({ at, width, onMove }: { at: number; width: number; onMove: (at: number) => void }): React.ReactNode {
  const move = (x: number): void => onMove(Math.min(Math.max(x, 0.02), 0.98));
  return (
    <div
      className="ov-curtain"
      style={{ left: at * width }}
      role="slider"
      tabIndex={0}
      aria-label="Curtain between A and B"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(at * 100)}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) =>
        e.currentTarget.hasPointerCapture(e.pointerId) &&
        move((e.clientX - (e.currentTarget.parentElement?.getBoundingClientRect().left ?? 0)) / width)
      }
      onKeyDown={(e) => {
        const by = e.key === 'ArrowLeft' ? -0.03 : e.key === 'ArrowRight' ? 0.03 : 0;
        if (by) {
          e.preventDefault();
          e.stopPropagation();
          move(at + by);
        }
      }}
    />
  );
}
