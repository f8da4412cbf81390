'use client';

/** The files that belong to one that is about to be checked in, both ways, with where each stands. */
import Form from 'react-bootstrap/Form';
import { saySize } from '../words.ts';
import { sayBelonging, type Belonging } from './belonging.ts';

interface Props {
  readonly list: readonly Belonging[];
  readonly me: string;
  readonly busy: boolean;
  /** New versions that go along, by file. */
  readonly along: ReadonlyMap<string, File>;
  readonly onAlong: (fileId: string, file: File | undefined) => void;
}

const SHOWN = 12;

export function Belongs({ list, me, busy, along, onAlong }: Props): React.ReactNode {
  if (!list.length) return null;
  return (
    <section className="ov-along mt-3" aria-label="What belongs to it">
      {(['needs', 'needed by'] as const).map((side) => {
        const here = list.filter((b) => b.side === side);
        const warned = here.filter((b) => sayBelonging(b, me).warn);
        const rest = here.filter((b) => !warned.includes(b));
        return (
          here.length > 0 && (
            <div key={side}>
              <h3>{side === 'needs' ? 'It needs' : 'It is needed by'}</h3>
              <ul>
                {[...warned, ...rest].slice(0, SHOWN).map((b) => (
                  <BelongingRow
                    key={b.key}
                    belonging={b}
                    me={me}
                    busy={busy}
                    file={along.get(b.file?.fileId ?? '')}
                    onAlong={onAlong}
                  />
                ))}
                {here.length > SHOWN && (
                  <li className="ov-quiet">
                    and {(here.length - SHOWN).toLocaleString('en')} more, which are all there
                  </li>
                )}
              </ul>
            </div>
          )
        );
      })}
    </section>
  );
}

function BelongingRow({
  belonging,
  me,
  busy,
  file,
  onAlong,
}: {
  belonging: Belonging;
  me: string;
  busy: boolean;
  file: File | undefined;
  onAlong: Props['onAlong'];
}): React.ReactNode {
  const { text, warn } = sayBelonging(belonging, me);
  const kept = belonging.file;
  const mine = kept?.holder?.id === me;
  return (
    <li className={warn ? 'ov-warn' : ''}>
      {warn && <i className="bi bi-exclamation-triangle" aria-hidden="true" />}{' '}
      <span className={kept ? '' : 'ov-mono'}>{belonging.name}</span>{' '}
      {kept && <span className="ov-mono">v{kept.newest.number}</span>}{' '}
      <span className={warn ? '' : 'ov-quiet'}>{text}</span>
      {kept && mine && (
        <Form.Group controlId={`along-${kept.fileId}`}>
          <Form.Label className="ov-quiet mb-0">
            {file
              ? `Goes along: ${file.name}, ${saySize(file.size)}`
              : 'Did it change as well? Its new version can go along'}
          </Form.Label>
          <Form.Control
            type="file"
            size="sm"
            disabled={busy}
            onChange={(e) => onAlong(kept.fileId, (e.target as HTMLInputElement).files?.[0])}
          />
        </Form.Group>
      )}
    </li>
  );
}
