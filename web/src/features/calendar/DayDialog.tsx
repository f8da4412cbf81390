'use client';
/** The day it was right: which versions there are of a day, and what stood in its morning. */
import { useMemo, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import { useFileActs } from '../files/state/acts.tsx';
import { useShown } from '../files/state/shown.tsx';
import { useVersion } from '../files/versions.ts';
import { Thumb } from '../projects/Thumb.tsx';
import { glyphWords } from '../rail/glyphs.tsx';
import { glyphOf, type Mark } from '../rail/layout.ts';
import { sayDate, sayTime } from '../words.ts';
import { countByDay, dayOf } from './month.ts';
import { Month } from './Month.tsx';

export function DayDialog(): React.ReactNode {
  const { every, b, move } = useShown();
  const { close } = useFileActs();
  const counts = useMemo(() => countByDay(every.map(({ at }) => at)), [every]);
  const [day, setDay] = useState(dayOf(b.at));
  const ofDay = every.filter(({ at }) => dayOf(at) === day);
  const before = every.findLast(({ at }) => at < Date.parse(day));
  const look = (id: string): void => {
    move({ a: id, b: id });
    close();
  };
  return (
    <Modal show size="lg" onHide={close} aria-labelledby="day-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="day-title">
          The day it was right
        </Modal.Title>
      </Modal.Header>
      <Modal.Body className="ov-day">
        <Month counts={counts} what="version" chosen={day} onChoose={setDay} />
        <section aria-label={`Versions of ${sayDate(day)}`}>
          <h3>{sayDate(day)}</h3>
          <ul>
            {ofDay.toReversed().map((mark) => (
              <DayVersion key={mark.id} mark={mark} onLook={look} />
            ))}
          </ul>
          {before && (
            <>
              <h3>In the morning it was</h3>
              <ul>
                <DayVersion mark={before} onLook={look} />
              </ul>
            </>
          )}
        </section>
      </Modal.Body>
    </Modal>
  );
}

function DayVersion({ mark, onLook }: { readonly mark: Mark; readonly onLook: (id: string) => void }): React.ReactNode {
  const { file, columns } = useShown();
  const version = useVersion(file.id, columns.line, mark);
  return (
    <li>
      <Thumb versionId={mark.id} format={version?.format ?? null} />
      <div>
        <span className="ov-mono">v{mark.number}</span> {mark.title && <strong>{mark.title}</strong>}{' '}
        {glyphWords[glyphOf(mark, 1)]} by {mark.by}, {sayTime(mark.at)}
        {version?.note && <p>{version.note}</p>}
        {version?.summary && <p className="ov-quiet">{version.summary}</p>}
      </div>
      <Button size="sm" variant="outline-secondary" onClick={() => onLook(mark.id)}>
        Look at v{mark.number}
      </Button>
    </li>
  );
}
