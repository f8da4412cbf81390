'use client';

/** The canvas itself, and what lies over it. */
import { cardOfVersion } from '../../cards.ts';
import { useDrawn } from '../../files/state/drawn.tsx';
import { usePicked } from '../../files/state/picked.tsx';
import { useRemarks } from '../../files/state/remarks.tsx';
import { Layers } from '../Layers.tsx';
import { LayerTree } from '../LayerTree.tsx';
import { lookNames } from '../looks.ts';
import { Loupe } from '../Loupe.tsx';
import { SideTags } from '../SideTags.tsx';
import { AreaPen } from './AreaPen.tsx';
import { useCanvas, type CanvasState } from './canvas-state.tsx';
import { Curtain } from './Curtain.tsx';

export function Paper(): React.ReactNode {
  const state = useCanvas();
  const { view, tools, frame, stage, size, sheetA, sheetB, rows, layers } = state;
  const { comparing, look, drawing, setDrawing, setFilter } = view;
  const { addArea } = usePicked();
  return (
    <div className="ov-canvas" ref={frame}>
      <Drawing />
      {drawing && (
        <AreaPen
          toPage={stage.toPage}
          onArea={(area) => {
            setDrawing(false);
            if (comparing) setFilter((before) => ({ ...before, area }));
            else addArea(area);
          }}
        />
      )}
      {comparing && look === 'curtain' && size && (
        <Curtain at={tools.curtain} width={size.width} onMove={tools.setCurtain} />
      )}
      <Tags />
      {tools.magnifying && tools.pointer && <Loupe a={comparing ? sheetA : undefined} b={sheetB} at={tools.pointer} />}
      {tools.listing && rows.length > 0 && <LayerTree rows={rows} alone={state.alone} onAlone={state.setAlone} />}
      {tools.listing && layers.length > 0 && (
        <Layers layers={layers} switched={state.switched} onSwitch={state.setSwitched} />
      )}
      <Missing />
    </div>
  );
}

/** Whether a side has nothing to show: the page or the layer is not in it. */
const lacks = (state: CanvasState, side: 'a' | 'b'): boolean => {
  const { alone, pages } = state;
  const at = side === 'a' ? pages.atA : pages.atB;
  return at === undefined || (alone !== undefined && alone[side] === undefined);
};

function isReady(state: CanvasState): boolean {
  const { view, sheetA, sheetB } = state;
  if (view.waiting || (!sheetA && !sheetB)) return false;
  const readyB = sheetB !== undefined || lacks(state, 'b');
  const readyA = !view.comparing || sheetA !== undefined || lacks(state, 'a');
  return readyA && readyB;
}

function Drawing(): React.ReactNode {
  const state = useCanvas();
  const { view, tools, stage, canvas, sheetB } = state;
  const { a, b, comparing, look } = view;
  const { pointing } = useRemarks();
  const click = useClick();
  const aims = pointing || tools.measuring || tools.magnifying;
  return (
    <canvas
      ref={canvas}
      tabIndex={0}
      role="img"
      aria-label={comparing ? `v${a.number} and v${b.number}, ${lookNames[look]}` : `v${b.number}`}
      data-drawn={Boolean(sheetB)}
      data-ready={isReady(state)}
      style={aims ? { cursor: 'crosshair' } : undefined}
      onPointerMove={(e) => {
        if (tools.magnifying) tools.point(stage.toPage(e.nativeEvent.offsetX, e.nativeEvent.offsetY));
      }}
      onClick={(e) => click(e.nativeEvent.offsetX, e.nativeEvent.offsetY)}
    />
  );
}

/** How far from a click a part may be for a comment to be about it, in CSS pixels. */
const REACH = 8;

/** A click measures, places a comment, goes to a place on the small page, opens a comment, or chooses a change. */
function useClick(): (x: number, y: number) => void {
  const { view, tools, stage, pages } = useCanvas();
  const { pointing, putAt, openOne } = useRemarks();
  const { pickAt } = usePicked();
  const drawn = useDrawn();
  return (x, y) => {
    if (stage.dragged()) return;
    const spot = tools.measuring ? stage.snapped(x, y) : undefined;
    if (spot) return tools.addSpot(spot);
    const place = pointing ? stage.toPage(x, y) : undefined;
    if (place) return putAt(pages.page ?? '', place[0], place[1], REACH / stage.scale());
    if (stage.mapTo(x, y)) return;
    const pin = stage.pinAt(x, y);
    if (pin) return openOne(pin);
    const change = view.comparing ? stage.pick(x, y) : undefined;
    if (change) return view.select(change);
    const part = view.b.id === view.newest.id && !drawn.on ? undefined : stage.toPage(x, y);
    if (part && drawn.on && drawn.point(part[0], part[1])) return;
    if (part) void pickAt(pages.page ?? '', part[0], part[1], REACH / stage.scale());
  };
}

/** Which version is seen where, and what is simplified. */
function Tags(): React.ReactNode {
  const { view, tools, head } = useCanvas();
  const reduced = head && (head.reduced ?? (cardOfVersion(view.b)?.crowd ? SIMPLIFIED : undefined));
  return (
    <>
      <SideTags view={view} blinkA={tools.blinkA} />
      {reduced && <span className="ov-tag is-low">{reduced}</span>}
    </>
  );
}

const SIMPLIFIED = 'Drawn from its outlines, because it is large: gradients, clips and pictures are simplified.';

/** Said where B is not there to be seen. */
function Missing(): React.ReactNode {
  const state = useCanvas();
  const { view, broken, sheetB } = state;
  const { b } = view;
  if (broken !== undefined)
    return (
      <div className="ov-waiting" role="alert">
        <div>
          v{b.number} is kept and can be downloaded, but it is not shown here: {broken}
        </div>
      </div>
    );
  if (sheetB || lacks(state, 'b')) return null;
  return (
    <div className="ov-waiting" role="status">
      <div>Drawing v{b.number} …</div>
    </div>
  );
}
