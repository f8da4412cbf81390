'use client';

/** The bar over the canvas: ways to look, pages, layers, tools, steps, distance. */
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { lookNames, looksFor } from '../looks.ts';
import { useCanvas } from './canvas-state.tsx';
import { SaveMenu } from './SaveMenu.tsx';
import { paces } from './useTools.ts';

export function CanvasBar(): React.ReactNode {
  const { view } = useCanvas();
  return (
    <div className="ov-bar">
      {view.comparing && <Looks />}
      <PageChoice />
      <LayerButton />
      <MeasureButtons />
      <span className="is-push" />
      {view.comparing && view.listed.length > 0 && <Steps />}
      <Distance />
      <SaveMenu />
    </div>
  );
}

interface SwitchProps {
  readonly on: boolean;
  readonly flip: () => void;
  readonly title?: string;
  readonly children: React.ReactNode;
}

/** A button that stays pressed while something is on. */
const Switch = ({ on, flip, title, children }: SwitchProps): React.ReactNode => (
  <Button size="sm" variant="outline-secondary" active={on} aria-pressed={on} onClick={flip} title={title}>
    {children}
  </Button>
);

function Looks(): React.ReactNode {
  const { view, laid, together, toggleTogether, tools } = useCanvas();
  const { look, move, result } = view;
  const movable = laid !== undefined && !isIdentity(laid.matrix);
  return (
    <>
      {looksFor(laid !== undefined && result?.picture.laidOn === undefined).map((l, i) => (
        <Switch key={l} on={look === l} flip={() => move({ look: l })} title={`Key ${i + 1}`}>
          {lookNames[l]}
        </Switch>
      ))}
      {look === 'blink' && (
        <>
          <Button size="sm" variant="outline-secondary" onClick={tools.togglePaused}>
            {tools.paused ? 'Go on' : 'Stop'}
          </Button>
          <Form.Select
            size="sm"
            className="ov-pages"
            aria-label="Pace"
            value={tools.pace}
            onChange={(e) => tools.setPace(Number(e.target.value))}
          >
            {paces.map(([name, milliseconds]) => (
              <option key={name} value={milliseconds}>
                {name}
              </option>
            ))}
          </Form.Select>
        </>
      )}
      {movable && (
        <Switch on={together} flip={toggleTogether} title="A is moved, turned and scaled so that it lies over B">
          Laid over
        </Switch>
      )}
    </>
  );
}

const isIdentity = (m: readonly number[]): boolean => [1, 0, 0, 1, 0, 0].every((v, k) => v === m[k]);

function PageChoice(): React.ReactNode {
  const { pages, setPage, pixels, tools } = useCanvas();
  return (
    <>
      {pixels && (
        <Switch on={tools.magnifying} flip={tools.toggleMagnifying} title="Key g">
          Magnify
        </Switch>
      )}
      {pages.names.length > 1 && (
        <Form.Select
          size="sm"
          className="ov-pages"
          aria-label="Page"
          value={pages.page}
          onChange={(e) => setPage(e.target.value)}
        >
          {pages.names.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </Form.Select>
      )}
    </>
  );
}

function LayerButton(): React.ReactNode {
  const { rows, layers, alone, tools } = useCanvas();
  if (!rows.length && !layers.length) return null;
  return (
    <Button
      size="sm"
      variant="outline-secondary"
      active={tools.listing}
      aria-expanded={tools.listing}
      onClick={tools.toggleListing}
    >
      {alone ? `Layer: ${alone.name}` : 'Layers'}
    </Button>
  );
}

function MeasureButtons(): React.ReactNode {
  const { tools, measured } = useCanvas();
  const { measuring, spots } = tools;
  return (
    <>
      <Switch on={measuring} flip={tools.toggleMeasuring} title="Key d">
        Measure
      </Switch>
      {measuring && (
        <span className="ov-quiet" role="status">
          {spots.length > 1 ? measured : 'Click on two points, or on more for an area'}
        </span>
      )}
      {measuring && spots.length > 0 && (
        <Button size="sm" variant="outline-secondary" onClick={tools.clearSpots}>
          Anew
        </Button>
      )}
    </>
  );
}

function Steps(): React.ReactNode {
  const { stepChange } = useCanvas().view;
  return (
    <>
      <Button
        size="sm"
        variant="outline-secondary"
        onClick={() => stepChange(-1)}
        title="Key P"
        aria-label="Previous change"
      >
        Previous
      </Button>
      <Button
        size="sm"
        variant="outline-secondary"
        onClick={() => stepChange(1)}
        title="Key N"
        aria-label="Next change"
      >
        Next
      </Button>
    </>
  );
}

function Distance(): React.ReactNode {
  const { stage, width, size, whole } = useCanvas();
  const zoom = (factor: number): void => stage.zoom(factor, (width ?? 0) / 2, (size?.height ?? 0) / 2);
  return (
    <>
      <Button size="sm" variant="outline-secondary" aria-label="Further away" title="Key −" onClick={() => zoom(0.8)}>
        −
      </Button>
      <Button size="sm" variant="outline-secondary" aria-label="Closer" title="Key +" onClick={() => zoom(1.25)}>
        +
      </Button>
      <Button size="sm" variant="outline-secondary" title="Key 0" onClick={() => whole && stage.fly(whole)}>
        Whole page
      </Button>
    </>
  );
}
