'use client';
/** Folders of the server that are looked at at intervals, and how the last looks went. */
import { plural } from '@ovrel/core/plural';
import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Project } from '../../contract/api.ts';
import { newWatchedSchema, type Watched, type WatchedList, type WatchedProblem } from '../../contract/watched.ts';
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { Ago } from '../frame/Ago.tsx';
import { fieldOf } from '../frame/form.ts';
import { FormDialog } from '../frame/FormDialog.tsx';
import { told, useAttempt } from '../frame/useAttempt.tsx';

interface Props {
  readonly initial: WatchedList;
  readonly projects: readonly Project[];
}

const problemWords: Readonly<Record<WatchedProblem, string>> = {
  gone: 'The folder is not there, or cannot be read. It is looked for again at the next look.',
  'too-many': 'There are more than 100,000 files in it. Watch a folder beneath it.',
  'not-allowed': 'Whoever set it cannot sign in any more, or the installation allows no watched folders.',
  outside: 'It leads out of the folder that the installation allows.',
};

export function WatchedPage({ initial, projects }: Props): React.ReactNode {
  const { data = initial, mutate } = useAnswer(
    api.watched.list,
    {},
    { fallbackData: initial, refreshInterval: 10_000 },
  );
  const [isAdding, setIsAdding] = useState(false);
  const { said, attempt } = useAttempt(mutate);
  const add = async (form: HTMLFormElement): Promise<void> => {
    const body = newWatchedSchema.parse({
      path: fieldOf(form, 'path'),
      projectId: fieldOf(form, 'project'),
      everyMinutes: Number(fieldOf(form, 'minutes')),
    });
    await call(api.watched.make, { body });
    setIsAdding(false);
    await mutate();
  };
  const look = ({ id, path }: Watched): Promise<boolean> =>
    told(attempt(`${path} was looked at.`, () => call(api.watched.look, { watchedId: id })));
  const end = ({ id, path }: Watched): Promise<boolean> =>
    told(
      attempt(`${path} is not watched any more. What came from it stays.`, () =>
        call(api.watched.remove, { watchedId: id }),
      ),
    );
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>Watched folders</h1>
        {data.root !== null && <Button onClick={() => setIsAdding(true)}>Watch a folder</Button>}
      </div>
      <p>
        A watched folder lies on the server, such as a share that a program saves into. At intervals Ovrel looks what is
        new in it: each settled file becomes a backup of the file of that name, and numbered backups come before it.
        {data.root === null
          ? ' This installation allows none: set OVREL_WATCHED_ROOT to the folder in which they lie.'
          : ` They lie in ${data.root}.`}
      </p>
      {said}
      {data.folders.length > 0 && (
        <table className="ov-table" aria-label="Watched folders">
          <thead>
            <tr>
              <th>Folder</th>
              <th>Project</th>
              <th>Every</th>
              <th>Last look</th>
              <th>In the name of</th>
              <th aria-label="Acts" />
            </tr>
          </thead>
          <tbody>
            {data.folders.map((one) => (
              <Row key={one.id} watched={one} onLook={() => void look(one)} onEnd={() => void end(one)} />
            ))}
          </tbody>
        </table>
      )}
      {isAdding && (
        <FormDialog id="watch" title="Watch a folder" act="Watch it" save={add} onClose={() => setIsAdding(false)}>
          <Form.Group controlId="watch-path">
            <Form.Label>Folder in {data.root}</Form.Label>
            <Form.Control name="path" required maxLength={500} placeholder="drawing-office" autoFocus />
          </Form.Group>
          <Form.Group controlId="watch-project" className="mt-2">
            <Form.Label>Project</Form.Label>
            <Form.Select name="project">
              {projects.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Group controlId="watch-minutes" className="mt-2">
            <Form.Label>Look every … minutes</Form.Label>
            <Form.Control name="minutes" type="number" min={1} max={10_080} defaultValue={60} />
          </Form.Group>
        </FormDialog>
      )}
    </main>
  );
}

interface RowProps {
  readonly watched: Watched;
  readonly onLook: () => void;
  readonly onEnd: () => void;
}

function Row({ watched, onLook, onEnd }: RowProps): React.ReactNode {
  const { path, project, folder, everyMinutes, lookedAt, problem, problems, files, by } = watched;
  return (
    <tr>
      <td>
        <span className="ov-mono">{path}</span>
        <div className="ov-quiet">{plural(files, 'file')} taken</div>
        {problem !== null && <p className="ov-bad">{problemWords[problem]}</p>}
        {problems.map((one) => (
          <p key={one.path} className="ov-bad">
            {one.path}: {one.why}
          </p>
        ))}
      </td>
      <td>
        <Link href={`/projects/${project.id}${folder ? `?folder=${folder.id}` : ''}`}>
          {folder ? `${project.name}, ${folder.name}` : project.name}
        </Link>
      </td>
      <td className="text-nowrap">{plural(everyMinutes, 'minute')}</td>
      <td>{lookedAt === null ? <span className="ov-quiet">not yet</span> : <Ago at={lookedAt} />}</td>
      <td>{by.name}</td>
      <td className="is-acts">
        <Button variant="link" aria-label={`Look at ${path} now`} onClick={onLook}>
          Look now
        </Button>
        <Button variant="link" aria-label={`Watch ${path} no more`} onClick={onEnd}>
          Watch no more
        </Button>
      </td>
    </tr>
  );
}
