'use client';

/** Needs and Needed by: which other files a version belongs with; part of About. */
import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { FileEntry, Version } from '../../contract/api.ts';
import type { Need, References as Found } from '../../contract/desk.ts';
import { call, sentenceOf } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { DialogActs } from '../frame/DialogActs.tsx';

export const useReferences = (
  versionId: string,
): { references: Found | undefined; refresh: () => Promise<unknown> } => {
  const { data, mutate } = useAnswer(api.references.list, { versionId }, { revalidateOnFocus: false });
  return { references: data, refresh: () => mutate() };
};

/** What is to be said of a reference beside its name; nothing where all is well. */
export function warning(need: Need): string | undefined {
  if (need.found === 'web') return 'in the web, not kept here';
  if (need.found === 'closed') return 'closed to you';
  if (need.found === 'missing' || !need.file) return 'not found in this project';
  if (need.file.deleted) return 'deleted here; it can be brought back';
  return need.found === 'name' ? `not at its path; ${need.file.path} has the name` : undefined;
}

export function References({
  file,
  version,
  references,
  refresh,
  mayOrganise,
}: {
  file: FileEntry;
  version: Version;
  references: Found | undefined;
  refresh: () => Promise<unknown>;
  mayOrganise: boolean;
}): React.ReactNode {
  const [adding, setAdding] = useState(false);
  const [problem, setProblem] = useState<string>();
  if (!references) return null;
  const { needs, neededBy } = references;
  const there = needs.filter((n) => n.file);
  const changed = there.filter((n) => n.then && n.file && n.then.number !== n.file.newest);
  const remove = (to: string): void => {
    setProblem(undefined);
    void call(api.references.remove, { fileId: file.id, body: { to } })
      .catch((error: unknown) => setProblem(sentenceOf(error)))
      .then(refresh);
  };
  return (
    <section className="ov-references" aria-label="References">
      <h2>Needs</h2>
      {problem && <Said problem>{problem}</Said>}
      {needs.length === 0 && <p className="ov-quiet">No other file.</p>}
      <ul>
        {needs.map((n, i) => (
          <li key={i}>
            {n.file ? (
              <Link href={`/files/${n.file.id}${n.then && n.then.number !== n.file.newest ? `?v=${n.then.id}` : ''}`}>
                {n.file.name}
              </Link>
            ) : (
              <span className="ov-mono ov-cut" title={n.target}>
                {n.target}
              </span>
            )}
            {n.then && n.file && (
              <>
                {' '}
                <span className="ov-mono">v{n.then.number}</span>
                {n.then.number !== n.file.newest && <span className="ov-quiet"> then; now v{n.file.newest}</span>}
              </>
            )}
            {n.found === 'by hand' && (
              <span className="ov-quiet">
                {' '}
                {n.says || 'added by hand'}
                {mayOrganise && n.file && (
                  <>
                    {' '}
                    <Button
                      variant="link"
                      className="p-0 align-baseline"
                      aria-label={`Remove the reference to ${n.file.name}`}
                      onClick={() => remove(n.file?.id ?? '')}
                    >
                      Remove
                    </Button>
                  </>
                )}
              </span>
            )}
            {warning(n) && (
              <div className="ov-warn">
                <i className="bi bi-exclamation-triangle" aria-hidden="true" /> {warning(n)}
              </div>
            )}
          </li>
        ))}
      </ul>
      {there.length > 0 && (
        <div className="ov-acts">
          <a
            className="btn btn-outline-secondary"
            href={linkTo(api.references.archive, { versionId: version.id, query: { as: 'then' } })}
            download
          >
            Download with what it needs{changed.length ? ', as it was then' : ''}
          </a>
          {changed.length > 0 && (
            <a
              className="btn btn-outline-secondary"
              href={linkTo(api.references.archive, { versionId: version.id, query: { as: 'now' } })}
              download
            >
              Download with what it needs, as it is now
            </a>
          )}
        </div>
      )}
      {neededBy.length > 0 && (
        <>
          <h2>Needed by</h2>
          <ul>
            {neededBy.map((u) => (
              <li key={u.file.id}>
                <Link href={`/files/${u.file.id}`}>{u.file.name}</Link>{' '}
                <span className="ov-mono">v{u.file.newest}</span>
                {u.says && <span className="ov-quiet"> {u.says}</span>}
              </li>
            ))}
          </ul>
        </>
      )}
      {mayOrganise && !file.deletedIn && (
        <Button variant="link" className="p-0" onClick={() => setAdding(true)}>
          Add a reference by hand
        </Button>
      )}
      {adding && (
        <AddReference
          file={file}
          onClose={() => {
            setAdding(false);
            void refresh();
          }}
        />
      )}
    </section>
  );
}

function AddReference({ file, onClose }: { file: FileEntry; onClose: () => void }): React.ReactNode {
  const { data } = useAnswer(api.desk.files, { projectId: file.projectId }, { revalidateOnFocus: false });
  const [problem, setProblem] = useState<string>();
  const add = async (form: HTMLFormElement): Promise<void> => {
    try {
      await call(api.references.add, {
        fileId: file.id,
        body: { to: fieldOf(form, 'to'), says: fieldOf(form, 'says') },
      });
      onClose();
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <Modal show onHide={onClose} aria-labelledby="reference-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void add(e.currentTarget);
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="reference-title">
            What else belongs to {file.name}?
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          <Form.Group controlId="reference-to" className="mb-3">
            <Form.Label>It needs</Form.Label>
            <Form.Select name="to" required>
              {data
                ?.filter((f) => f.fileId !== file.id)
                .map((f) => (
                  <option key={f.fileId} value={f.fileId}>
                    {f.path}
                  </option>
                ))}
            </Form.Select>
          </Form.Group>
          <Form.Group controlId="reference-says">
            <Form.Label>How they belong together</Form.Label>
            <Form.Control name="says" maxLength={200} placeholder="such as: drawing of" autoComplete="off" />
          </Form.Group>
        </Modal.Body>
        <DialogActs onCancel={onClose} disabled={!data || data.length < 2}>
          Add
        </DialogActs>
      </Form>
    </Modal>
  );
}
