'use client';

import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { DrawnByAnswer } from '../../../contract/drawn.ts';
import { frameStyles } from '../../viewer/paint/frames.ts';
import { sayDate } from '../../words.ts';
import { useDrawn } from '../state/drawn.tsx';
import { useFileActs } from '../state/acts.tsx';
import { usePicked } from '../state/picked.tsx';
import { useShown } from '../state/shown.tsx';
import { useProposing } from '../useProposing.ts';

/** Who put each part in and who changed it last, and what was there and is gone. */
export function DrawnBy(): React.ReactNode {
  const { on, toggle, answer } = useDrawn();
  return (
    <section aria-label="Who drew what">
      <h2>Drawn by</h2>
      <Button size="sm" variant="outline-secondary" active={on} aria-pressed={on} onClick={toggle} title="Key h">
        {on ? 'Hide who drew what' : 'Show who drew what'}
      </Button>
      {on && !answer && <p role="status">Looking …</p>}
      {on && answer && !answer.ready && (
        <p role="status">
          Following the parts through {answer.total} versions; {answer.done} are known …
        </p>
      )}
      {on && answer?.sentence && <p>{answer.sentence}</p>}
      {on && answer?.ready && !answer.sentence && (
        <>
          <People />
          <Stories answer={answer} />
          <Gone answer={answer} />
        </>
      )}
    </section>
  );
}

function People(): React.ReactNode {
  const { people, only, setOnly } = useDrawn();
  return (
    <ul className="ov-drawers" aria-label="People">
      {people.map(({ id, name, letter, style, parts }) => (
        <li key={id}>
          <span className="ov-letter" style={{ color: frameStyles[style % frameStyles.length]?.colour }}>
            {letter}
          </span>{' '}
          {name} <span className="ov-mono ov-quiet">{parts.toLocaleString('en')}</span>{' '}
          <Button
            variant="link"
            className="p-0"
            aria-pressed={only === id}
            onClick={() => setOnly(only === id ? undefined : id)}
          >
            {only === id ? 'Everybody’s' : 'Only theirs'}
          </Button>
        </li>
      ))}
    </ul>
  );
}

/** Of the parts that were pointed at. */
function Stories({ answer }: { readonly answer: DrawnByAnswer }): React.ReactNode {
  const { parts, picks } = usePicked();
  const { square } = useDrawn();
  const pointed: readonly number[] = parts.map((part) => part.index);
  const asked = square === undefined ? pointed : [square];
  // Layers are few, and cannot be told apart by a click.
  const shown = picks === 'layers' ? answer.parts.map((_, k) => k) : asked;
  if (shown.length === 0)
    return (
      <p className="ov-quiet">
        Click {picks === 'areas' ? 'anywhere on the picture' : 'a part on the drawing'} for its story.
      </p>
    );
  return (
    <ul aria-label="Stories">
      {shown.map((index) => (
        <li key={index}>
          <strong>{calledPart(answer.parts[index])}</strong>:{' '}
          {(answer.parts[index]?.story ?? []).map((v, k) => (
            <Touch key={v} version={answer.versions[v]} says={k === 0 ? 'put in by' : '; changed by'} />
          ))}
        </li>
      ))}
    </ul>
  );
}

const calledPart = (part: DrawnByAnswer['parts'][number] | undefined): string => {
  if (!part) return '';
  return part.name === part.kind ? part.kind : `${part.kind} ${part.name}`;
};

function Touch({
  version,
  says,
}: {
  readonly version: DrawnByAnswer['versions'][number] | undefined;
  readonly says: string;
}): React.ReactNode {
  if (!version) return null;
  const { fileId, id, parentId, number, by, at } = version;
  const address = parentId ? `/files/${fileId}?a=${parentId}&b=${id}` : `/files/${fileId}?v=${id}`;
  return (
    <>
      {says}{' '}
      <Link href={address}>
        {by.name} v{number}
      </Link>{' '}
      ({sayDate(at)})
    </>
  );
}

const SHOWN = 8;

function Gone({ answer }: { readonly answer: DrawnByAnswer }): React.ReactNode {
  const { newest } = useShown();
  const { mayCheckIn } = useFileActs();
  const { search, setSearch } = useDrawn();
  const { propose, busy } = useProposing();
  const { gone, versions } = answer;
  if (gone.length === 0 && search === '') return null;
  return (
    <>
      <h2>What was here and is gone</h2>
      <Form.Control
        size="sm"
        type="search"
        aria-label="Search what is gone"
        placeholder="By name, kind or layer"
        value={search}
        onChange={(e) => setSearch(e.target.value)}
      />
      <ul aria-label="Gone">
        {gone.slice(0, SHOWN).map((part) => {
          const [last, out] = [versions[part.last], versions[part.out]];
          if (!last || !out) return null;
          return (
            <li key={`${last.id} ${part.part}`}>
              {part.name === part.kind ? part.kind : `${part.kind} ${part.name}`}, taken out by{' '}
              <Link href={`/files/${out.fileId}?a=${last.id}&b=${out.id}`}>
                {out.by.name} v{out.number}
              </Link>{' '}
              {mayCheckIn && (
                <Button
                  variant="link"
                  className="p-0 align-baseline"
                  disabled={busy}
                  onClick={() => propose({ kind: 'carry over', from: last.id, parts: [part.part] })}
                >
                  Carry over into v{newest.number}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      {gone.length > SHOWN && <p className="ov-quiet">{gone.length - SHOWN} more; search for what you miss.</p>}
    </>
  );
}
