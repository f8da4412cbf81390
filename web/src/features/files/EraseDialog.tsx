'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import Link from 'next/link';
import { api } from '../../contract/operations/index.ts';
import type { Answer } from '../../contract/operation.ts';
import { call, sentenceOf } from '../api/client.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { fieldOf } from '../frame/form.ts';
import { FormDialog } from '../frame/FormDialog.tsx';
import { Said } from '../frame/Said.tsx';
import { sayMoment, saySize } from '../words.ts';
import { useFileActs } from './state/acts.tsx';
import { useShown } from './state/shown.tsx';

type Preview = Answer<typeof api.erasing.preview>;

/** Says exactly what goes for good, and asks for a reason and the file's name. */
export function EraseDialog(): React.ReactNode {
  const { file, b } = useShown();
  const { close, land } = useFileActs();
  // What is shown meanwhile is no matter: it was asked of this version.
  const [version] = useState(b);
  const { data, error } = useAnswer(api.erasing.preview, { versionId: version.id }, { revalidateOnFocus: false });
  const [typed, setTyped] = useState('');
  const erase = async (form: HTMLFormElement): Promise<void> => {
    const useInstead = new FormData(form).get('instead') !== null;
    const body = { reason: fieldOf(form, 'reason'), name: typed, useInstead };
    const done = await call(api.erasing.erase, { versionId: version.id, body });
    await land(done.sentence, done.newest);
  };
  const may = data !== undefined && data.blocked.length === 0 && data.versions.length > 0;
  return (
    <FormDialog
      id="erase"
      title={`Erase back to v${version.number}`}
      act="Erase for good"
      forGood
      ready={may && typed === file.name}
      save={erase}
      onClose={close}
    >
      {error && <Said problem>{sentenceOf(error)}</Said>}
      {data && <Going preview={data} />}
      {may && (
        <>
          <Form.Group controlId="erase-reason" className="mt-3">
            <Form.Label>Why</Form.Label>
            <Form.Control as="textarea" name="reason" rows={2} maxLength={2000} required />
          </Form.Group>
          {data.referring.length > 0 && (
            <Form.Check
              className="mt-2"
              id="erase-instead"
              name="instead"
              defaultChecked
              label={`What refers to them uses v${version.number} instead`}
            />
          )}
          <Form.Group controlId="erase-name" className="mt-2">
            <Form.Label>
              Type <strong>{file.name}</strong> to confirm
            </Form.Label>
            <Form.Control value={typed} autoComplete="off" onChange={(e) => setTyped(e.target.value)} />
          </Form.Group>
        </>
      )}
    </FormDialog>
  );
}

const FEW = 6;

function Going({ preview }: { readonly preview: Preview }): React.ReactNode {
  const { versions, people, comments, bytes, referring, together, blocked, to } = preview;
  const [first] = versions;
  if (!first) return <p>v{to.number} is the newest version: nothing comes after it.</p>;
  const last = versions.at(-1) ?? first;
  const numbers = versions.length === 1 ? `v${first.number}` : `v${first.number} to v${last.number}`;
  return (
    <>
      {blocked.map((sentence) => (
        <Said problem key={sentence}>
          {sentence}
        </Said>
      ))}
      <p>
        {numbers} {versions.length === 1 ? 'goes' : 'go'} for good, and v{to.number} is the newest again. This cannot be
        undone. To keep them, bring v{to.number} forward instead.
      </p>
      <ul>
        <li>
          {versions.length === 1 ? '1 version' : `${versions.length} versions`} since {sayMoment(first.at)}:{' '}
          {people.map((p) => `${p.versions} by ${p.name}`).join(', ')}
        </li>
        {comments > 0 && <li>{comments === 1 ? '1 comment' : `${comments} comments`} on them</li>}
        <li>{saySize(bytes)} of contents that nothing else has</li>
        {referring.map((r) => (
          <li key={r.fileId}>
            {r.file} v{r.number} was saved with one of them
          </li>
        ))}
      </ul>
      <details>
        <summary>Notes of what goes</summary>
        <ul>
          {versions.slice(-FEW).map((v) => (
            <li key={v.id}>
              v{v.number}, {v.by.name}: {v.note || 'no note'}
            </li>
          ))}
        </ul>
      </details>
      {together.length > 0 && (
        <>
          <p className="mt-2 mb-1">Checked in together with them, and left as they are:</p>
          <ul>
            {together.map((t) => (
              <li key={t.fileId}>
                <Link href={`/files/${t.fileId}?v=${t.versionId}`}>
                  {t.file}, back to v{t.number}
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
