'use client';

import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Comment, NewComment } from '../../contract/comments.ts';
import type { Version } from '../../contract/api.ts';
import { sentenceOf } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';
import { sayMoment } from '../words.ts';
import type { CommentsHere } from './useComments.ts';

/** What a new comment will stand at. */
export type Target =
  | { readonly kind: 'version' }
  | { readonly kind: 'place'; readonly at: NonNullable<NewComment['at']>; readonly says: string };

interface Props {
  readonly version: Version;
  readonly here: CommentsHere;
  readonly target: Target | undefined;
  readonly onTarget: (target: Target | undefined) => void;
  /** True while a place on the drawing is being chosen; undefined where nothing can be pointed at. */
  readonly pointing: boolean | undefined;
  readonly onPoint: () => void;
  readonly selected: string | undefined;
  readonly onSelect: (id: string | undefined) => void;
}

export function Comments({
  version,
  here,
  target,
  onTarget,
  pointing,
  onPoint,
  selected,
  onSelect,
}: Props): React.ReactNode {
  const [all, setAll] = useState(false);
  const open = here.comments.filter((c) => !c.resolved);
  const shown = all ? here.comments : open;
  const resolved = here.comments.length - open.length;
  const numbers = new Map(here.comments.map((c, i) => [c.id, i + 1]));
  return (
    <section aria-label="Comments" className="ov-comments">
      <h2>Comments{open.length > 0 && <span className="ov-mono"> {open.length}</span>}</h2>
      {!here.comments.length && <p className="ov-quiet">Nobody has said anything yet.</p>}
      <ol>
        {shown.map((c) => (
          <Entry
            key={c.id}
            comment={c}
            number={numbers.get(c.id) ?? 0}
            version={version}
            here={here}
            selected={c.id === selected}
            onSelect={() => onSelect(c.id === selected ? undefined : c.id)}
          />
        ))}
      </ol>
      {target ? (
        <NewOne
          key={JSON.stringify(target)}
          version={version}
          target={target}
          here={here}
          onDone={(id) => {
            onTarget(undefined);
            onSelect(id);
          }}
        />
      ) : (
        <div className="d-flex flex-wrap gap-2">
          <Button size="sm" variant="outline-secondary" onClick={() => onTarget({ kind: 'version' })}>
            Comment on v{version.number}
          </Button>
          {pointing !== undefined && (
            <Button
              size="sm"
              variant="outline-secondary"
              active={pointing}
              aria-pressed={pointing}
              onClick={onPoint}
              title="Key m"
            >
              {pointing ? 'Click on the place …' : 'Comment on a place …'}
            </Button>
          )}
          {resolved > 0 && (
            <Button size="sm" variant="link" className="p-0" onClick={() => setAll((x) => !x)}>
              {all ? 'Hide the resolved' : `Show ${resolved} resolved`}
            </Button>
          )}
        </div>
      )}
    </section>
  );
}

function Entry({
  comment: c,
  number,
  version,
  here,
  selected,
  onSelect,
}: {
  comment: Comment;
  number: number;
  version: Version;
  here: CommentsHere;
  selected: boolean;
  onSelect: () => void;
}): React.ReactNode {
  const [problem, setProblem] = useState<string>();
  const entry = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (selected) entry.current?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
  const act = (work: Promise<unknown>): void =>
    void work.then(
      () => setProblem(undefined),
      (error: unknown) => setProblem(sentenceOf(error)),
    );
  return (
    <li ref={entry} className={selected ? 'is-open' : undefined} data-comment={c.id}>
      <button type="button" aria-expanded={selected} onClick={onSelect}>
        <span className={`ov-pin${c.resolved ? ' is-resolved' : ''}`}>{number}</span>
        <span>
          <strong>{c.by.name}</strong>{' '}
          <span className="ov-quiet">
            {sayMoment(c.at)}
            {c.madeOn.id === version.id ? '' : `, on v${c.madeOn.number}`}
          </span>
          <br />
          {withMentions(c.body, c.mentions)}
          {c.about && (
            <span className="ov-quiet">
              <br />
              {c.about.name.startsWith(c.about.kind) || c.about.name.startsWith('“')
                ? c.about.name
                : `${c.about.kind} ${c.about.name === c.about.kind ? '' : c.about.name}`}
              {c.about.category && `, ${c.about.category}`}
              {c.lost && `; not in v${version.number} any more`}
            </span>
          )}
          {c.replies.length > 0 && !selected && (
            <span className="ov-quiet">
              <br />
              {c.replies.length === 1 ? '1 answer' : `${c.replies.length} answers`}
            </span>
          )}
          {c.resolved && (
            <span className="ov-quiet">
              <br />
              Resolved by {c.resolved.by.name}, {sayMoment(c.resolved.at)}
            </span>
          )}
        </span>
      </button>
      {selected && (
        <div className="ov-answers">
          {problem && <Said problem>{problem}</Said>}
          {c.replies.map((r) => (
            <p key={r.id}>
              <strong>{r.by.name}</strong> <span className="ov-quiet">{sayMoment(r.at)}</span>
              <br />
              {r.body}
            </p>
          ))}
          <Form
            onSubmit={(e) => {
              e.preventDefault();
              const form = e.currentTarget;
              const body = fieldOf(form, 'answer');
              if (body.trim()) act(here.reply(c.id, body).then(() => form.reset()));
            }}
          >
            <Form.Control
              as="textarea"
              rows={1}
              name="answer"
              aria-label="Answer"
              placeholder="Answer; @name to call someone"
              maxLength={4000}
            />
            <div className="d-flex gap-2 mt-1">
              <Button type="submit" size="sm" variant="outline-secondary">
                Answer
              </Button>
              <Button size="sm" variant="outline-secondary" onClick={() => act(here.resolve(c.id, !c.resolved))}>
                {c.resolved ? 'Open again' : 'Resolve'}
              </Button>
            </div>
          </Form>
        </div>
      )}
    </li>
  );
}

function NewOne({
  version,
  target,
  here,
  onDone,
}: {
  version: Version;
  target: Target;
  here: CommentsHere;
  onDone: (id: string | undefined) => void;
}): React.ReactNode {
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const send = async (body: string): Promise<void> => {
    setBusy(true);
    try {
      const made = await here.add({ version: version.id, body, ...(target.kind === 'place' ? { at: target.at } : {}) });
      onDone(made.id);
    } catch (error) {
      setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <Form
      className="ov-new"
      onSubmit={(e) => {
        e.preventDefault();
        void send(fieldOf(e.currentTarget, 'comment'));
      }}
    >
      {problem && <Said problem>{problem}</Said>}
      <Form.Group controlId="comment">
        <Form.Label>{target.kind === 'place' ? target.says : `About v${version.number} as a whole`}</Form.Label>
        <Form.Control
          as="textarea"
          rows={2}
          name="comment"
          required
          maxLength={4000}
          autoFocus
          placeholder="@name calls someone"
        />
      </Form.Group>
      <div className="d-flex gap-2 mt-1">
        <Button type="submit" size="sm" disabled={busy}>
          Say it
        </Button>
        <Button size="sm" variant="outline-secondary" onClick={() => onDone(undefined)}>
          Cancel
        </Button>
      </div>
    </Form>
  );
}

/** The names of those who are mentioned stand out. */
function withMentions(body: string, mentions: Comment['mentions']): React.ReactNode {
  const names = mentions
    .flatMap((m) => [m.name, m.name.split(' ')[0] ?? ''])
    .filter(Boolean)
    .sort((p, q) => q.length - p.length);
  if (!names.length) return body;
  return body
    .split(new RegExp(`(@(?:${names.map((n) => n.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')).join('|')}))`, 'i'))
    .map((piece, i) =>
      i % 2 ? (
        <strong key={i} className="ov-mention">
          {piece}
        </strong>
      ) : (
        piece
      ),
    );
}
