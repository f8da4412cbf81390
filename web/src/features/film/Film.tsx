'use client';
/** A file through time: stepped through with a picture at once, or played, until “this one”. */
import { filmFormWords, filmForms, type FilmForm } from '@ovrel/core/film';
import { useEffect, useMemo, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { MOST_FRAMES } from '../../contract/film.ts';
import { linkTo } from '../../contract/operation.ts';
import { api } from '../../contract/operations/index.ts';
import { useFileActs } from '../files/state/acts.tsx';
import { useShown } from '../files/state/shown.tsx';
import { useVersion } from '../files/versions.ts';
import { pauseOf, type Mark } from '../rail/layout.ts';
import { sayMoment } from '../words.ts';
import { Picture } from './Picture.tsx';
import { nearest, stretchOf } from './stretch.ts';
import { usePictures } from './usePictures.ts';
import { usePlaying } from './usePlaying.ts';

/** Milliseconds that each version is shown. */
const paces = [2000, 1000, 700, 350, 150] as const;
const paceWords: Readonly<Record<(typeof paces)[number], string>> = {
  2000: 'very slowly',
  1000: 'slowly',
  700: 'at an easy pace',
  350: 'fast',
  150: 'very fast',
};

export function Film(): React.ReactNode {
  const { file, columns, marks, a, b, comparing, move } = useShown();
  const { close } = useFileActs();
  const [eachSave, setEachSave] = useState(false);
  const [areMarked, setAreMarked] = useState(true);
  const [pace, setPace] = useState<number>(700);
  const pause = pauseOf(columns);
  const stretch = useMemo(
    () => stretchOf(marks, { eachSave, pause, ...(comparing ? { ends: [a.id, b.id] } : {}) }),
    [marks, eachSave, pause, comparing, a.id, b.id],
  );
  const ids = useMemo(() => stretch.map(({ id }) => id), [stretch]);
  const [shown, setShown] = useState(comparing ? a.id : b.id);
  const at = Math.max(0, nearest(stretch, shown, marks));
  const pictures = usePictures(ids, at);
  const version = stretch[at];
  const { isPlaying, setIsPlaying } = usePlaying(
    { at, last: stretch.length - 1, pace, frames: pictures.plain, ids },
    (next) => setShown(ids[next] ?? ''),
  );
  const go = (next: number): void => {
    setIsPlaying(false);
    const to = ids[Math.min(Math.max(next, 0), ids.length - 1)];
    if (to !== undefined) setShown(to);
  };
  const thisOne = (): void => {
    if (version) move({ a: version.id, b: version.id });
    close();
  };
  const play = (): void => {
    if (at === ids.length - 1) setShown(ids[0] ?? '');
    setIsPlaying(!isPlaying);
  };
  const keys: Readonly<Record<string, () => void>> = {
    ArrowLeft: () => go(at - 1),
    ArrowRight: () => go(at + 1),
    Home: () => go(0),
    End: () => go(ids.length - 1),
    ' ': play,
    Enter: thisOne,
  };
  useWindowKeys(keys);
  if (!version) return null;
  const saved = ids.length > MOST_FRAMES ? ids.slice(-MOST_FRAMES) : ids;
  const filmAs = (as: FilmForm): string =>
    linkTo(api.files.film, {
      fileId: file.id,
      query: { versions: saved.join(','), as, pace: String(pace), marks: areMarked ? 'yes' : 'no' },
    });
  return (
    <Modal show fullscreen onHide={close} aria-labelledby="film-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="film-title">
          {file.name} through time
        </Modal.Title>
      </Modal.Header>
      <Modal.Body className="ov-film">
        <Picture
          picture={(areMarked ? pictures.marked.get(version.id) : undefined) ?? pictures.plain.get(version.id)}
          name={`v${version.number}`}
        />
        <Words mark={version} place={at} of={stretch.length} />
        <input
          type="range"
          className="form-range"
          aria-label="Version"
          aria-valuetext={`v${version.number}`}
          min={0}
          max={stretch.length - 1}
          value={at}
          onChange={(e) => go(Number(e.target.value))}
        />
        <div className="ov-film-acts">
          <Button variant="outline-secondary" title="Key ←" disabled={at === 0} onClick={() => go(at - 1)}>
            Before
          </Button>
          <Button variant="outline-secondary" title="Space" onClick={play}>
            {isPlaying ? 'Stop' : 'Play'}
          </Button>
          <Button
            variant="outline-secondary"
            title="Key →"
            disabled={at === stretch.length - 1}
            onClick={() => go(at + 1)}
          >
            After
          </Button>
          <Button title="Enter" onClick={thisOne}>
            This one
          </Button>
          <Form.Select aria-label="Pace" value={pace} onChange={(e) => setPace(Number(e.target.value))}>
            {paces.map((milliseconds) => (
              <option key={milliseconds} value={milliseconds}>
                {paceWords[milliseconds]}
              </option>
            ))}
          </Form.Select>
          <Form.Check
            id="film-marks"
            label="Mark what changed"
            checked={areMarked}
            onChange={(e) => setAreMarked(e.target.checked)}
          />
          <Form.Check
            id="film-each"
            label="Each save of a sitting"
            checked={eachSave}
            onChange={(e) => setEachSave(e.target.checked)}
          />
          <span className="ov-film-save">
            To send{ids.length > MOST_FRAMES ? ` (the last ${MOST_FRAMES})` : ''}:{' '}
            {filmForms.map((form) => (
              <a key={form} className="me-2" href={filmAs(form)} download>
                {filmFormWords[form]}
              </a>
            ))}
          </span>
        </div>
      </Modal.Body>
    </Modal>
  );
}

/** Keys of the whole dialog; controls that have the focus keep what is theirs, but for arrows. */
function useWindowKeys(keys: Readonly<Record<string, () => void>>): void {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent): void => {
      const control = (event.target as HTMLElement).closest('select, input, a, button');
      const isTheirs = control !== null && (!event.key.startsWith('Arrow') || control.matches('select'));
      const act = latest.current[event.key];
      if (!act || isTheirs || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      act();
    };
    window.addEventListener('keydown', onKeyDown);
    return () => window.removeEventListener('keydown', onKeyDown);
  }, []);
}

function Words({
  mark,
  place,
  of,
}: {
  readonly mark: Mark;
  readonly place: number;
  readonly of: number;
}): React.ReactNode {
  const { file, columns } = useShown();
  const version = useVersion(file.id, columns.line, mark);
  return (
    <p className="ov-film-words" role="status">
      <span className="ov-mono">v{mark.number}</span> {mark.title && <strong>{mark.title}</strong>} {mark.by},{' '}
      {sayMoment(mark.at)}
      <span className="ov-quiet">
        {' '}
        ({place + 1} of {of}) {version?.note} {version?.summary}
      </span>
    </p>
  );
}
