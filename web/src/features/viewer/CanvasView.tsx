'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useKeys } from '../frame/keys.tsx';
import { fit, flyTo, type Box } from './camera.ts';
import { legend, lookNames, looks, signOf, type Look } from './looks.ts';
import type { Scene } from './paint.ts';
import { useStage } from './stage.ts';
import { useSheet } from './useSheet.ts';
import type { ViewerProps } from './Viewer.tsx';

const BLINK = 700;

const boxOf = (box: readonly number[] | undefined): Box | undefined => (box?.length === 4 ? (box as unknown as Box) : undefined);

export function CanvasView(props: ViewerProps): React.ReactNode {
  const { a, b, comparing, detail, result, shown, selected, onSelect, look, onLook, onStepChange } = props;
  const pixels = comparing ? result?.comparison.level !== 'parts' : detail?.look.level !== 'parts';
  const boxB = boxOf(comparing ? result?.picture.pageB?.box : detail?.look.page?.box);
  const { sheet: sheetB, broken } = useSheet(b, pixels ? undefined : boxB);
  const { sheet: sheetA } = useSheet(comparing ? a : undefined, pixels ? undefined : boxOf(result?.picture.pageA?.box));
  const canvas = useRef<HTMLCanvasElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<{ width: number; height: number }>();
  const [curtain, setCurtain] = useState(0.5);
  const [blinkA, setBlinkA] = useState(false);
  const [paused, setPaused] = useState(false);
  const viewWidth = size && comparing && look === 'side' ? size.width / 2 : size?.width;
  const page = sheetB?.box ?? sheetA?.box;
  const [p0, p1, p2, p3] = page ?? [];
  const whole = useMemo(() => (p0 !== undefined && viewWidth && size ? fit([p0, p1 as number, p2 as number, p3 as number], viewWidth, size.height) : undefined), [p0, p1, p2, p3, viewWidth, size]);
  const scene: Scene = {
    look, a: sheetA, b: sheetB, comparing, changes: comparing ? shown : [], outlines: result?.picture.outlines ?? {}, pixels, selected, pulse: 1, curtain, blinkA,
  };
  const stage = useStage(canvas, size, scene, whole);

  useEffect(() => {
    const el = frame.current;
    if (!el) return undefined;
    const observer = new ResizeObserver(() => setSize({ width: el.clientWidth, height: el.clientHeight }));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    if (!comparing || look !== 'blink' || paused) return undefined;
    const timer = setInterval(() => setBlinkA((x) => !x), BLINK);
    return () => clearInterval(timer);
  }, [comparing, look, paused]);
  const chosen = comparing ? shown.find((c) => c.id === selected) : undefined;
  useEffect(() => {
    const boxes = [chosen?.boxA, chosen?.boxB].filter((x): x is NonNullable<typeof x> => Boolean(x));
    if (!boxes.length || !whole || !viewWidth || !size) return;
    const target = boxes.reduce<Box>((s, x) => [Math.min(s[0], x[0]), Math.min(s[1], x[1]), Math.max(s[2], x[2]), Math.max(s[3], x[3])], boxes[0] as Box);
    stage.fly(flyTo(target, whole, viewWidth, size.height));
  }, [chosen, whole, viewWidth, size, stage]);

  const centre = (): readonly [number, number] => [(viewWidth ?? 0) / 2, (size?.height ?? 0) / 2];
  const chooseLook = (next: Look): void => onLook(next);
  useKeys([
    { key: '+', says: 'Closer', run: () => stage.zoom(1.25, ...centre()) },
    { key: '-', says: 'Further away', run: () => stage.zoom(0.8, ...centre()) },
    { key: '0', says: 'Whole page', run: () => whole && stage.fly(whole) },
    ...(comparing ? looks.map((l, i) => ({ key: String(i + 1), says: lookNames[l], run: () => chooseLook(l) })) : []),
    ...(comparing && look === 'blink' ? [{ key: ' ', says: 'Stop or go on blinking', run: () => setPaused((x) => !x) }] : []),
  ]);
  return (
    <>
      <div className="ov-bar">
        {comparing && looks.map((l, i) => <Button key={l} size="sm" variant="outline-secondary" active={look === l} aria-pressed={look === l} onClick={() => chooseLook(l)} title={`Key ${i + 1}`}>{lookNames[l]}</Button>)}
        {comparing && look === 'blink' && <Button size="sm" variant="outline-secondary" onClick={() => setPaused((x) => !x)}>{paused ? 'Go on' : 'Stop'}</Button>}
        <span className="is-push" />
        {comparing && shown.length > 0 && <><Button size="sm" variant="outline-secondary" onClick={() => onStepChange(-1)} title="Key P">Previous change</Button><Button size="sm" variant="outline-secondary" onClick={() => onStepChange(1)} title="Key N">Next change</Button></>}
        <Button size="sm" variant="outline-secondary" aria-label="Further away" title="Key −" onClick={() => stage.zoom(0.8, ...centre())}>−</Button>
        <Button size="sm" variant="outline-secondary" aria-label="Closer" title="Key +" onClick={() => stage.zoom(1.25, ...centre())}>+</Button>
        <Button size="sm" variant="outline-secondary" title="Key 0" onClick={() => whole && stage.fly(whole)}>Whole page</Button>
      </div>
      <div className="ov-canvas" ref={frame}>
        <canvas ref={canvas} tabIndex={0} role="img" aria-label={comparing ? `v${a.number} and v${b.number}, ${lookNames[look]}` : `v${b.number}`} data-ready={Boolean(sheetB && (!comparing || sheetA))}
          onClick={(e) => {
            const id = comparing && !stage.dragged() ? stage.pick(e.nativeEvent.offsetX, e.nativeEvent.offsetY) : undefined;
            if (id) onSelect(id);
          }} />
        {comparing && look === 'curtain' && size && <Curtain at={curtain} width={size.width} onMove={setCurtain} />}
        {comparing && look === 'side' && <><span className="ov-tag is-a">A v{a.number}</span><span className="ov-tag is-b is-mid">B v{b.number}</span></>}
        {comparing && look === 'curtain' && <><span className="ov-tag is-a">A v{a.number}</span><span className="ov-tag is-b">B v{b.number}</span></>}
        {comparing && look === 'blink' && <span className={`ov-tag ${blinkA ? 'is-a' : 'is-b'}`}>{blinkA ? `A v${a.number}` : `B v${b.number}`}</span>}
        {broken && <div className="ov-waiting" role="alert"><div>v{b.number} is kept, but your browser cannot draw it. It can be downloaded.</div></div>}
        {!broken && !sheetB && <div className="ov-waiting" role="status"><div>Drawing v{b.number} …</div></div>}
      </div>
      {comparing && (
        <div className="ov-legend" aria-label="Legend">
          {pixels ? <span>{look === 'overlay' || look === 'only' ? 'White: equal in A and B. Darker or coloured: different pixels.' : 'Pictures are shown as they are; only their bytes were compared.'}</span>
            : <>{legend.map(([kind, says]) => <span key={kind}><span className={`ov-sign ov-${kind}`}>{signOf[kind]}</span> {says}</span>)}{look === 'overlay' && <span className="ov-quiet">faint: untouched</span>}</>}
        </div>
      )}
    </>
  );
}

function Curtain({ at, width, onMove }: { at: number; width: number; onMove: (at: number) => void }): React.ReactNode {
  const move = (x: number): void => onMove(Math.min(Math.max(x, 0.02), 0.98));
  return (
    <div className="ov-curtain" style={{ left: at * width }} role="slider" tabIndex={0} aria-label="Curtain between A and B" aria-valuemin={0} aria-valuemax={100} aria-valuenow={Math.round(at * 100)}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && move((e.clientX - (e.currentTarget.parentElement?.getBoundingClientRect().left ?? 0)) / width)}
      onKeyDown={(e) => { const by = e.key === 'ArrowLeft' ? -0.03 : e.key === 'ArrowRight' ? 0.03 : 0; if (by) { e.preventDefault(); e.stopPropagation(); move(at + by); } }} />
  );
}
