'use client';

/** A model in space, or two of them. */
import { useEffect, useMemo, useRef, useState } from 'react';
import { cardOfVersion } from '../../cards.ts';
import { usePicked } from '../../files/state/picked.tsx';
import { useRemarks } from '../../files/state/remarks.tsx';
import { useKeys } from '../../frame/keys.tsx';
import { Curtain } from '../canvas/Curtain.tsx';
import { useTools } from '../canvas/useTools.ts';
import { lookNames } from '../looks.ts';
import { SideTags } from '../SideTags.tsx';
import { useView, type View } from '../state.ts';
import { FlatTools } from './FlatTools.tsx';
import type { Box3 } from './orbit.ts';
import { PartsPanel } from './PartsPanel.tsx';
import { PickedPart, type PartPicked } from './PickedPart.tsx';
import { SpaceFlags } from './SpaceFlags.tsx';
import { SectionTools } from './SectionTools.tsx';
import { boxOfChange, boxOfPart, pairsLaid, shownOf, spaceLooks, united } from './shown.ts';
import { SpaceBar, type Switch } from './SpaceBar.tsx';
import { SpaceLegend } from './SpaceLegend.tsx';
import { useSection } from './useSection.ts';
import { useSpaces, type Spaces } from './useSpaces.ts';
import { boxInScene, useSpaceStage, type SpaceInView } from './useSpaceStage.ts';
import { sayWay, type Spot3 } from './ways.ts';

const noParts: ReadonlySet<string> = new Set();
const nowhere: readonly number[] = [];

export function SpaceView(): React.ReactNode {
  const seen = useView();
  const comparing = seen.comparing && !seen.waiting;
  const view: View = { ...seen, comparing };
  const { a, b, listed, selected, look, result } = view;
  const pairs = useMemo(() => (comparing ? pairsLaid(listed) : []), [comparing, listed]);
  const laid = result?.picture.placing;
  const spaces = useSpaces(comparing ? a : undefined, b, pairs, laid);
  const tools = useTools(comparing && look === 'blink');
  const [parallel, setParallel] = useState(false);
  const [hidden, setHidden] = useState(noParts);
  const [picked, setPicked] = useState<PartPicked>();
  const [listing, setListing] = useState(false);
  const [drawing, setDrawing] = useState(false);
  const measure = useMeasure();
  const head = spaces.b?.head;
  const section = useSection(
    useMemo(() => head && boxInScene(head), [head]),
    head?.origin ?? nowhere,
  );
  const most = result?.comparison.measures?.deviation?.max ?? 0;
  const { curtain, blinkA } = tools;
  const { plane: cut } = section;
  const { spots } = measure;
  const shown = useMemo(
    () =>
      shownOf(spaces, {
        look,
        comparing,
        changes: listed,
        selected,
        hidden,
        curtain,
        blinkA,
        parallel,
        most,
        laid,
        cut,
        spots,
      }),
    [spaces, look, comparing, listed, selected, hidden, curtain, blinkA, parallel, most, laid, cut, spots],
  );
  const frame = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const space = useSpaceStage(canvas, frame, spaces, shown);
  useFlights(view, spaces, space.fly);
  const { pickPart } = usePicked();
  const { pointing, putOn } = useRemarks();
  const pick = (found: PartPicked | undefined): void => {
    setPicked(found);
    if (!found) return;
    const part = spaces[found.side]?.head.parts[found.part];
    if (part && pointing && found.side === 'b') putOn(found.part, part.name);
    else if (part && !seen.comparing)
      pickPart({ ...part, index: found.part, page: head?.pages[part.page] ?? '', box: null });
    const on = found.side === 'a' ? 'partA' : 'partB';
    const change = listed.find((one) => one.material === undefined && one[on]?.index === found.part);
    if (change && comparing) view.select(change.id);
  };
  const choose = (x: number, y: number): void => {
    if (measure.isOn) measure.add(space.spot(x, y));
    else pick(space.pick(x, y));
  };
  const toggleParallel = (): void => setParallel((on) => !on);
  const switches: Switch[] = [
    { name: 'Parts', says: 'Parts of the model', key: 'l', isOn: listing, toggle: () => setListing((on) => !on) },
    {
      name: 'Section',
      says: 'Cut through the model',
      key: 'x',
      isOn: section.section.isOn,
      toggle: () => section.set({ isOn: !section.section.isOn }),
    },
    {
      name: 'Draw flat',
      says: 'Draw a plan or a side, to be saved',
      key: 's',
      isOn: drawing,
      toggle: () => setDrawing((on) => !on),
    },
    { name: 'Measure', says: 'Measure from place to place', key: 'd', isOn: measure.isOn, toggle: measure.toggle },
  ];
  useSpaceKeys(view, space, tools, switches, toggleParallel);
  const unit = head?.unit ?? '';
  return (
    <>
      <SpaceBar
        view={view}
        space={space}
        switches={switches}
        parallel={parallel}
        onParallel={toggleParallel}
        hidden={hidden.size}
        onShowAll={() => setHidden(noParts)}
      />
      {section.section.isOn && <SectionTools tools={section} unit={unit} />}
      {drawing && <FlatTools version={b} name={view.file.name} unit={unit} />}
      <div className="ov-canvas" ref={frame}>
        <canvas
          ref={canvas}
          className={measure.isOn ? 'is-measuring' : undefined}
          tabIndex={0}
          role="img"
          aria-label={comparing ? `v${a.number} and v${b.number}, ${lookNames[look]}` : `v${b.number}`}
          data-ready={shown !== undefined}
          onClick={(e) => space.isClick() && choose(e.nativeEvent.offsetX, e.nativeEvent.offsetY)}
        />
        {comparing && look === 'curtain' && space.width > 0 && (
          <Curtain at={tools.curtain} width={space.width} onMove={tools.setCurtain} />
        )}
        <SpaceFlags spaces={spaces} space={space} />
        <SideTags view={view} blinkA={tools.blinkA} />
        {listing && (
          <PartsPanel
            spaces={spaces}
            category={cardOfVersion(b)?.called?.category}
            comparing={comparing}
            changes={listed}
            hidden={hidden}
            onHidden={setHidden}
            onPick={(found) => {
              pick(found);
              const box = boxOfPart(spaces[found.side], found.part);
              if (box) space.fly(box);
            }}
          />
        )}
        {picked && (
          <PickedPart
            picked={picked}
            spaces={spaces}
            changes={listed}
            onHide={(key) => {
              setHidden((before) => new Set([...before, key]));
              setPicked(undefined);
            }}
            onComment={putOn}
            onClose={() => setPicked(undefined)}
          />
        )}
        {measure.isOn && (
          <p className="ov-measured" role="status">
            {sayWay(spots, unit) ?? 'Click on two places; near a corner, the corner is meant.'}
          </p>
        )}
        <Missing spaces={spaces} view={view} broken={space.broken} />
      </div>
      {comparing && <SpaceLegend view={view} most={most} unit={result?.comparison.unit ?? ''} />}
    </>
  );
}

/** Places that were clicked on, from one to the next; the third begins anew. */
function useMeasure(): {
  readonly isOn: boolean;
  readonly spots: readonly Spot3[];
  readonly toggle: () => void;
  readonly add: (spot: Spot3 | undefined) => void;
} {
  const [isOn, setOn] = useState(false);
  const [spots, setSpots] = useState<readonly Spot3[]>([]);
  return {
    isOn,
    spots,
    toggle: () => {
      setOn((on) => !on);
      setSpots([]);
    },
    add: (spot) => {
      if (spot) setSpots((before) => (before.length === 2 ? [spot] : [...before, spot]));
    },
  };
}

/** Goes to the change that is chosen, and to what a cause touches that is looked into. */
function useFlights({ comparing, chosen, filter, listed }: View, { b }: Spaces, fly: (box: Box3) => void): void {
  const latest = useRef(fly);
  useEffect(() => {
    latest.current = fly;
  });
  useEffect(() => {
    const box = comparing ? boxOfChange(chosen) : undefined;
    if (box && b) latest.current(box);
  }, [comparing, chosen, b]);
  const touched = useMemo(() => {
    if (!comparing || filter.cause === undefined) return undefined;
    return listed.reduce<Box3 | undefined>((all, change) => {
      const box = boxOfChange(change);
      return box && all ? united(all, box) : (box ?? all);
    }, undefined);
  }, [comparing, filter.cause, listed]);
  useEffect(() => {
    if (touched && b) latest.current(touched);
  }, [touched, b]);
}

const TURN = 15;

function useSpaceKeys(
  { comparing, look, move }: View,
  space: SpaceInView,
  tools: ReturnType<typeof useTools>,
  switches: readonly Switch[],
  toggleParallel: () => void,
): void {
  useKeys([
    { key: '+', says: 'Closer', run: () => space.zoom(0.8) },
    { key: '-', says: 'Further away', run: () => space.zoom(1.25) },
    { key: '0', says: 'Whole model', run: space.whole },
    { key: 'j', says: 'Parallel lines stay parallel', run: toggleParallel },
    ...switches.map(({ says, key, toggle }) => ({ key, says, run: toggle })),
    { key: 'q', says: 'Turn to the left', run: () => space.turn(-TURN, 0) },
    { key: 'e', says: 'Turn to the right', run: () => space.turn(TURN, 0) },
    { key: 'a', says: 'Look more from above', run: () => space.turn(0, TURN) },
    { key: 'z', says: 'Look more from below', run: () => space.turn(0, -TURN) },
    ...(comparing
      ? spaceLooks.map((l, i) => ({ key: String(i + 1), says: lookNames[l], run: () => move({ look: l }) }))
      : []),
    ...(comparing && look === 'blink' ? [{ key: ' ', says: 'Stop or go on blinking', run: tools.togglePaused }] : []),
  ]);
}

function Missing({
  spaces,
  view: { b },
  broken,
}: {
  readonly spaces: Spaces;
  readonly view: View;
  readonly broken: string | undefined;
}): React.ReactNode {
  const why = broken ?? spaces.broken;
  if (why !== undefined)
    return (
      <div className="ov-waiting" role="alert">
        <div>
          v{b.number} is kept and can be downloaded, but it is not shown here: {why}
        </div>
      </div>
    );
  if (spaces.b) return null;
  return (
    <div className="ov-waiting" role="status">
      <div>Opening v{b.number} …</div>
    </div>
  );
}
