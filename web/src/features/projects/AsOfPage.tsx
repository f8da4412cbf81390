'use client';
/** A project or folder as it was at a moment, what came since, and the way back. */
import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { api } from '../../contract/operations/index.ts';
import type { AsOf } from '../../contract/as-of.ts';
import { linkTo } from '../../contract/operation.ts';
import { call, sentenceOf } from '../api/client.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { FormDialog } from '../frame/FormDialog.tsx';
import { fieldOf } from '../frame/form.ts';
import { Month } from '../calendar/Month.tsx';
import { Said } from '../frame/Said.tsx';
import { sayMoment } from '../words.ts';
import { Thumb } from './Thumb.tsx';

interface Props {
  readonly projectId: string;
  readonly folderId: string | undefined;
  readonly name: string;
  /** As the address says it. */
  readonly initialAt: string | undefined;
  readonly mayBringForward: boolean;
  readonly mayMake: boolean;
}

type Entry = AsOf['files'][number];

const isMoment = (text: string | undefined): text is string => text !== undefined && !Number.isNaN(Date.parse(text));

export function AsOfPage({ projectId, folderId, name, initialAt, mayBringForward, mayMake }: Props): React.ReactNode {
  const [at, setAt] = useState(isMoment(initialAt) ? new Date(initialAt).toISOString() : undefined);
  const [said, setSaid] = useState<{ problem: boolean; text: string; href?: string }>();
  const [asking, setAsking] = useState<'bring' | 'branch'>();
  const [telling, setTelling] = useState(false);
  const query = { at: at ?? '', folder: folderId };
  const { data, error, mutate } = useAnswer(api.projects.asOf, at ? { projectId, query } : null, {
    keepPreviousData: true,
  });
  const { data: days } = useAnswer(api.projects.days, { projectId, query: { folder: folderId } });
  const choose = (text: string): void => {
    if (!isMoment(`${text}Z`)) return;
    const moment = new Date(`${text}Z`).toISOString();
    setAt(moment);
    const folder = folderId ? `&folder=${folderId}` : '';
    window.history.replaceState(null, '', `?at=${encodeURIComponent(moment)}${folder}`);
  };
  const changed = data?.files.filter((f) => f.then && !f.same && !f.deleted) ?? [];
  const then = data?.files.filter((f) => f.then) ?? [];
  const later = data?.files.filter((f) => !f.then && !f.deleted) ?? [];
  const held = changed.filter((f) => f.heldByOther);
  const bring = async (form: HTMLFormElement): Promise<void> => {
    const files = new FormData(form).get('without') === null ? changed : changed.filter((f) => !f.heldByOther);
    const body = {
      at: at ?? '',
      folder: folderId,
      note: fieldOf(form, 'note'),
      files: files.map((f) => f.fileId),
      deleteLater: new FormData(form).get('later') !== null,
    };
    const done = await call(api.projects.bringForwardTo, { projectId, body });
    setAsking(undefined);
    setSaid({ problem: false, text: done.sentence });
    await mutate();
  };
  const branch = async (form: HTMLFormElement): Promise<void> => {
    const body = { at: at ?? '', folder: folderId, name: fieldOf(form, 'name'), reason: fieldOf(form, 'reason') };
    const done = await call(api.projects.branchProject, { projectId, body });
    setAsking(undefined);
    setSaid({ problem: false, text: done.sentence, href: `/projects/${done.projectId}` });
  };
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>{name}, as it was</h1>
        {at && (
          <a
            className="btn btn-outline-secondary"
            href={linkTo(api.projects.archive, { projectId, query: { folder: folderId, at } })}
          >
            Download it as it was
          </a>
        )}
        {mayMake && then.length > 0 && (
          <Button variant="outline-secondary" onClick={() => setAsking('branch')}>
            Make a new project of it
          </Button>
        )}
        {mayBringForward && changed.length > 0 && (
          <Button onClick={() => setAsking('bring')}>
            Bring {changed.length === 1 ? 'one file' : `${changed.length} files`} forward to then
          </Button>
        )}
      </div>
      <Form.Group controlId="as-of-moment" className="ov-filters">
        <Form.Label className="mb-0">Moment (UTC)</Form.Label>
        <Form.Control
          type="datetime-local"
          style={{ width: 'auto' }}
          value={at?.slice(0, 16) ?? ''}
          onChange={(e) => choose(e.target.value)}
        />
      </Form.Group>
      <Month
        counts={new Map(days?.map(({ day, versions }) => [day, versions]))}
        what="version"
        chosen={at?.slice(0, 10)}
        onChoose={(day) => choose(`${day}T23:59`)}
      />
      {said && (
        <Said problem={said.problem}>
          {said.text} {said.href && <Link href={said.href}>Open it</Link>}
        </Said>
      )}
      {error && <Said problem>{sentenceOf(error)}</Said>}
      {!at && <p>Choose a day, or a moment: the table shows each file as it was then, and what came since.</p>}
      {changed.length > 0 && (
        <Form.Switch
          id="as-of-telling"
          className="my-3"
          label="Say what changed since, file by file"
          checked={telling}
          onChange={(e) => setTelling(e.target.checked)}
        />
      )}
      {at && data && <Then entries={data.files} telling={telling} />}
      {asking === 'bring' && (
        <FormDialog
          id="as-of"
          title={`Bring ${changed.length === 1 ? 'one file' : `${changed.length} files`} forward`}
          act="Bring forward"
          save={bring}
          onClose={() => setAsking(undefined)}
        >
          <p>As of {sayMoment(at ?? '')}, in one set. Every version stays.</p>
          <Form.Group controlId="as-of-note">
            <Form.Label>Why</Form.Label>
            <Form.Control as="textarea" name="note" rows={2} maxLength={3900} />
          </Form.Group>
          {held.length > 0 && (
            <Form.Check
              className="mt-2"
              id="as-of-without"
              name="without"
              defaultChecked
              label={`Leave out what others have checked out: ${held.map((f) => `${f.name} (${f.holder ?? ''})`).join(', ')}`}
            />
          )}
          {later.length > 0 && (
            <Form.Check
              className="mt-2"
              id="as-of-later"
              name="later"
              label={`Delete what came later: ${later.map((f) => f.name).join(', ')}. It can be brought back.`}
            />
          )}
        </FormDialog>
      )}
      {asking === 'branch' && (
        <FormDialog
          id="as-of-branch"
          title="A new project of what was there then"
          act="Make the project"
          save={branch}
          onClose={() => setAsking(undefined)}
        >
          <p>
            {then.length === 1 ? 'One file' : `${then.length} files`} as of {sayMoment(at ?? '')}, in the same folders.
            Each knows where it comes from, and can be compared and joined; nothing here is touched.
          </p>
          <Form.Group controlId="as-of-name">
            <Form.Label>Name of the project</Form.Label>
            <Form.Control
              name="name"
              required
              maxLength={200}
              defaultValue={`${name}, ${at?.slice(0, 10) ?? ''}`}
              autoFocus
            />
          </Form.Group>
          <Form.Group controlId="as-of-reason" className="mt-2">
            <Form.Label>Why</Form.Label>
            <Form.Control as="textarea" name="reason" rows={2} maxLength={3900} />
          </Form.Group>
        </FormDialog>
      )}
    </main>
  );
}

function Then({
  entries,
  telling,
}: {
  readonly entries: readonly Entry[];
  readonly telling: boolean;
}): React.ReactNode {
  return (
    <table className="ov-table" aria-label="Files as they were">
      <thead>
        <tr>
          <th aria-label="Picture" />
          <th>Name</th>
          <th>Then</th>
          <th>By</th>
          <th>When</th>
          <th>Since</th>
        </tr>
      </thead>
      <tbody>
        {entries.map((entry) => (
          <Row key={entry.fileId} entry={entry} telling={telling} />
        ))}
      </tbody>
    </table>
  );
}

function Row({ entry, telling }: { readonly entry: Entry; readonly telling: boolean }): React.ReactNode {
  const { fileId, name, path, then, now } = entry;
  const shown = then ?? now;
  return (
    <tr>
      <td className="is-thumb">
        <Thumb versionId={shown.id} format={shown.format} />
      </td>
      <td>
        <Link href={`/files/${fileId}?v=${shown.id}`}>{name}</Link>
        {path && <div className="ov-quiet">{path}</div>}
      </td>
      <td className="ov-mono">{then ? `v${then.number}` : 'not yet'}</td>
      <td>{then?.by}</td>
      <td className="text-nowrap">{then && sayMoment(then.at)}</td>
      <td>
        <Since entry={entry} />
        {telling && then && !entry.same && !entry.deleted && <Summary a={then.id} b={now.id} />}
      </td>
    </tr>
  );
}

function Since({ entry: { fileId, then, now, same, deleted, holder } }: { readonly entry: Entry }): React.ReactNode {
  if (deleted) return <>deleted since</>;
  if (!then) return <>came later</>;
  if (same) return <span className="ov-quiet">as it is now</span>;
  return (
    <>
      <Link href={`/files/${fileId}?a=${then.id}&b=${now.id}`}>
        v{then.number} → v{now.number}
      </Link>
      {holder && <span className="ov-quiet">, held by {holder}</span>}
    </>
  );
}

/** What changed between the two, in a sentence; computed when it is first asked for. */
function Summary({ a, b }: { readonly a: string; readonly b: string }): React.ReactNode {
  const { data, error } = useAnswer(api.comparisons.get, { query: { a, b } }, { revalidateOnFocus: false });
  if (error) return <div className="ov-quiet">{sentenceOf(error)}</div>;
  return <div className="ov-quiet">{data ? data.comparison.summary : 'Comparing …'}</div>;
}
