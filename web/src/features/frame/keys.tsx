'use client';

/** Keyboard actions. Every mounted set of keys is listed by "?". */
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState } from 'react';
import Modal from 'react-bootstrap/Modal';

export interface KeyAction {
  /** As in KeyboardEvent.key; "Shift+ArrowLeft" for combinations. */
  readonly key: string;
  readonly says: string;
  readonly run: () => void;
}

type Sets = Map<symbol, { current: readonly KeyAction[] }>;
const Keys = createContext<Sets>(new Map());

/** What a key is called: letters without regard to capitals, arrows with Shift or Alt by both. */
function nameOf({ key, shiftKey, altKey }: KeyboardEvent): string {
  if (altKey) return `Alt+${key}`;
  if (shiftKey && key.startsWith('Arrow')) return `Shift+${key}`;
  return key.length === 1 ? key.toLowerCase() : key;
}

export function KeyProvider({ children }: { children: React.ReactNode }): React.ReactNode {
  const [sets] = useState<Sets>(() => new Map());
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      if (
        event.ctrlKey ||
        event.metaKey ||
        (event.altKey && !event.key.startsWith('Arrow')) ||
        target.closest('input, textarea, select, [contenteditable], .modal')
      )
        return;
      const name = nameOf(event);
      if (name === '?') {
        setOpen(true);
        return;
      }
      const action = [...sets.values()].flatMap((s) => s.current).find((a) => a.key === name);
      if (!action || (['Enter', ' '].includes(name) && target.closest('button, a'))) return;
      event.preventDefault();
      action.run();
    };
    window.addEventListener('keydown', onKey);
    // From now on the page does what it is asked to.
    document.documentElement.dataset['awake'] = 'yes';
    return () => window.removeEventListener('keydown', onKey);
  }, [sets]);
  const show = useCallback(() => setOpen(true), []);
  return (
    <Keys.Provider value={sets}>
      <ShowKeys.Provider value={show}>{children}</ShowKeys.Provider>
      <Modal show={open} onHide={() => setOpen(false)} aria-labelledby="keys-title">
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="keys-title">
            Keys on this page
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>{open && <KeyList sets={sets} />}</Modal.Body>
      </Modal>
    </Keys.Provider>
  );
}

const ShowKeys = createContext<() => void>(() => undefined);
export const useShowKeys = (): (() => void) => useContext(ShowKeys);

const signs: Readonly<Record<string, string>> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  'Alt+ArrowLeft': 'Alt ←',
  'Alt+ArrowRight': 'Alt →',
  'Shift+ArrowLeft': 'Shift ←',
  'Shift+ArrowRight': 'Shift →',
  Escape: 'Esc',
};

function KeyList({ sets }: { sets: Sets }): React.ReactNode {
  const actions = [...sets.values()].flatMap((s) => s.current);
  return (
    <table className="ov-table">
      <tbody>
        {actions.map((a) => (
          <tr key={a.key}>
            <td className="ov-mono">{signs[a.key] ?? a.key.toUpperCase()}</td>
            <td>{a.says}</td>
          </tr>
        ))}
        <tr>
          <td className="ov-mono">?</td>
          <td>This list</td>
        </tr>
      </tbody>
    </table>
  );
}

/** Makes keys work while the component is on the page. */
export function useKeys(actions: readonly KeyAction[]): void {
  const sets = useContext(Keys);
  const ref = useRef(actions);
  useEffect(() => {
    ref.current = actions;
  });
  const id = useMemo(() => Symbol('keys'), []);
  useEffect(() => {
    sets.set(id, ref);
    return () => void sets.delete(id);
  }, [sets, id]);
}
