'use client';

import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Comment } from '../../contract/comments.ts';
import type { Version } from '../../contract/api.ts';
import { sentenceOf } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';
import { sayMoment } from '../words.ts';
import type { CommentsHere } from './useComments.ts';

/** One comment, with its answers while it is open. */
export function Entry({
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
