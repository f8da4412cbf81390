'use client';

/** Who may do what in a project, or in one of its folders. */
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import {
  meanings,
  completed,
  projectRoleOf,
  projectRoles,
  rights,
  same,
  type AccessList,
  type ProjectRole,
  type Right,
} from '../../contract/access.ts';
import { call, sentenceOf } from '../api/client.ts';
import { Said } from '../frame/Said.tsx';
import { useLive } from '../live/useLive.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { TitleState } from './TitleState.tsx';

/** How much of it this place says itself. */
function sayHere(said: number, inFolder: boolean): string {
  const otherwise = inFolder ? 'comes from above' : 'comes from their role in Ovrel';
  if (!said) return `Nothing is said here: what anybody may do ${otherwise}.`;
  return `${said === 1 ? 'One row is' : `${said} rows are`} said here; the rest ${otherwise}.`;
}

type Row = AccessList['people'][number];

export function AccessPage({
  project,
  folderId,
  initial,
}: {
  project: { id: string; name: string };
  folderId: string | null;
  initial: AccessList;
}): React.ReactNode {
  const router = useRouter();
  const { data = initial, mutate } = useAnswer(
    api.projects.access,
    { projectId: project.id, query: { folder: folderId ?? undefined } },
    { fallbackData: initial },
  );
  const path = `/projects/${project.id}/access`;
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  useLive({ project: project.id }, (event) => {
    if (event?.kind === 'files') void mutate();
  });
  const place = data.places.find((p) => p.folderId === folderId);
  const where = folderId ? `the folder “${place?.path ?? ''}”` : 'the whole project';
  const say = async (row: Row, chosen: readonly Right[] | null): Promise<void> => {
    setBusy(true);
    setProblem(undefined);
    try {
      const body = { folderId, personId: row.id, rights: chosen };
      const now = await call(api.projects.setAccess, { projectId: project.id, body });
      await mutate(now, { revalidate: false });
    } catch (error) {
      setProblem(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  const said = data.people.filter((p) => p.said).length;
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>Access to {project.name}</h1>
      </div>
      <div className="ov-filters">
        <Form.Select
          size="sm"
          aria-label="Place"
          value={folderId ?? ''}
          onChange={(e) => router.push(`${path}${e.target.value ? `?folder=${e.target.value}` : ''}`)}
        >
          {data.places.map((p) => (
            <option key={p.folderId ?? ''} value={p.folderId ?? ''}>
              {p.folderId ? p.path : 'The whole project'}
              {p.said ? ` (says something of ${p.said})` : ''}
            </option>
          ))}
        </Form.Select>
      </div>
      <p className="ov-lead">
        What holds in {where}. {sayHere(said, folderId !== null)} The nearest place decides: a folder before the
        project, a person before everybody else.
        {!data.mayManage && (
          <>
            {' '}
            You can read this, not change it: {data.mine.as}.
            {data.mine.ask.length > 0 && ` Ask ${data.mine.ask.map((p) => p.name).join(' or ')}.`}
          </>
        )}
      </p>
      {data.mayManage && <TitleState projectId={project.id} folderId={folderId} where={where} />}
      {problem && <Said problem>{problem}</Said>}
      <table className="ov-table ov-access" aria-label="Who may do what">
        <thead>
          <tr>
            <th>Who</th>
            <th>As</th>
            {rights.map((r) => (
              <th key={r} className="is-right" title={meanings[r]}>
                {r}
              </th>
            ))}
            <th>Said by</th>
          </tr>
        </thead>
        <tbody>
          {data.people.map((row) => (
            <PersonRow
              key={row.id ?? 'everybody'}
              row={row}
              fixed={!data.mayManage || busy || row.role === 'administrator'}
              onSay={(chosen) => void say(row, chosen)}
            />
          ))}
        </tbody>
      </table>
      <dl className="ov-meanings">
        {rights.map((r) => (
          <div key={r}>
            <dt>{r}</dt>
            <dd>{meanings[r]}</dd>
          </div>
        ))}
      </dl>
    </main>
  );
}

const ABOVE = 'above';
const OWN = 'own choice';

function PersonRow({
  row,
  fixed,
  onSay,
}: {
  row: Row;
  fixed: boolean;
  onSay: (chosen: readonly Right[] | null) => void;
}): React.ReactNode {
  const admin = row.role === 'administrator';
  const everybody = row.id === null;
  const byRole = row.from === '';
  const role = projectRoleOf(row.rights) ?? OWN;
  const inOvrel = everybody ? 'as their roles in Ovrel' : `${row.role} in Ovrel`;
  const fromRole = everybody ? '' : 'role in Ovrel';
  const from = byRole ? fromRole : row.from;
  const above = byRole ? inOvrel : `as above: ${role}`;
  const choose = (value: string): void => {
    if (value === ABOVE) onSay(null);
    else if (value !== OWN) onSay(projectRoles[value as ProjectRole]);
  };
  const tick = (right: Right): void => {
    const had = row.rights.includes(right);
    // Without a right, those that need it fall as well.
    const chosen = had
      ? row.rights.filter((r) => r !== right && !completed([r]).includes(right))
      : completed([...row.rights, right]);
    if (!same(chosen, row.rights)) onSay(chosen);
  };
  const own = row.said !== null;
  const name = row.name;
  return (
    <tr className={own ? 'is-said' : ''}>
      <th scope="row">
        {name}
        {row.role && (
          <>
            {' '}
            <span className="ov-quiet fw-normal">{row.role}</span>
          </>
        )}
      </th>
      <td>
        {admin ? (
          <span className="ov-quiet">may do everything</span>
        ) : (
          <Form.Select
            size="sm"
            aria-label={`Role of ${name}`}
            disabled={fixed}
            value={own ? role : ABOVE}
            onChange={(e) => choose(e.target.value)}
          >
            <option value={ABOVE}>{own ? 'say nothing here' : above}</option>
            {Object.keys(projectRoles).map((r) => (
              <option key={r} value={r}>
                {r}
              </option>
            ))}
            {own && role === OWN && <option value={OWN}>{OWN}</option>}
          </Form.Select>
        )}
      </td>
      {rights.map((right) => (
        <td key={right} className="is-right">
          {everybody && byRole ? (
            <span className="ov-quiet" aria-label={`${right}: by their roles`}>
              ·
            </span>
          ) : (
            <Form.Check
              aria-label={`${name}: ${right}`}
              checked={row.rights.includes(right)}
              disabled={fixed}
              onChange={() => tick(right)}
            />
          )}
        </td>
      ))}
      <td className="ov-quiet">{own ? 'this place' : from}</td>
    </tr>
  );
}
