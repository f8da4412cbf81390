'use client';
/** The first page: what waits for one, what happened since one was last here, and one's projects. */
import Link from 'next/link';
import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { Home } from '../../contract/home.ts';
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { Mentions } from '../comments/Mentions.tsx';
import { useKeys } from '../frame/keys.tsx';
import { GoingTable } from '../keeping/GoingTable.tsx';
import { NameDialog, type NameQuestion } from '../projects/NameDialog.tsx';
import { sayMoment } from '../words.ts';
import { NewsList } from './NewsList.tsx';
import { ProjectTiles } from './ProjectTiles.tsx';
import { Waiting } from './Waiting.tsx';

interface Props {
  readonly initial: Home;
  readonly mayMake: boolean;
  /** Guests see projects that are opened to them, and nothing of the whole. */
  readonly mayLook: boolean;
  readonly mayManagePeople: boolean;
}

/** Pages that lie behind this one, and who sees them. */
const places = [
  { href: '/ledger', name: 'Ledger', isFor: 'mayLook' },
  { href: '/storage', name: 'Storage', isFor: 'mayLook' },
  { href: '/people', name: 'People', isFor: 'mayManagePeople' },
  { href: '/watched', name: 'Watched folders', isFor: 'mayManagePeople' },
] as const;

/** The page is asked anew this often while it is open, in milliseconds. */
const AGAIN = 60_000;

/** Whoever cannot be told of is told of at the next time. */
const beHere = (): void => void call(api.home.visit, {}).catch(() => undefined);

export function HomePage({ initial, mayMake, mayLook, mayManagePeople }: Props): React.ReactNode {
  const { data = initial, mutate } = useAnswer(
    api.home.get,
    {},
    {
      fallbackData: initial,
      refreshInterval: AGAIN,
      revalidateOnMount: true,
    },
  );
  useEffect(() => {
    const timer = setInterval(beHere, AGAIN);
    beHere();
    return () => clearInterval(timer);
  }, []);
  const [question, setQuestion] = useState<NameQuestion>();
  const refresh = (): void => void mutate();
  const ask = (): void =>
    setQuestion({
      title: 'New project',
      act: 'Make project',
      value: '',
      save: async (name) => {
        await call(api.projects.make, { body: { name } });
        await mutate();
      },
    });
  useKeys(mayMake ? [{ key: 'n', says: 'New project', run: ask }] : []);
  const { news, going, projects, since } = data;
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>Home</h1>
        {places
          .filter(({ isFor }) => ({ mayLook, mayManagePeople })[isFor])
          .map(({ href, name }) => (
            <Link key={href} href={href} className="btn btn-outline-secondary">
              {name}
            </Link>
          ))}
        {mayMake && <Button onClick={ask}>New project</Button>}
      </div>
      <div className="ov-home">
        <section aria-label="Projects">
          <h2>Projects</h2>
          <ProjectTiles projects={projects} mayMake={mayMake} mayLook={mayLook} onMake={ask} />
        </section>
        <div>
          <Mentions />
          <Waiting asks={data.asks} held={data.held} />
          <section aria-label="What happened">
            <h2>{since === null ? 'What happened lately' : `Since you were here on ${sayMoment(since)}`}</h2>
            <NewsList news={news} />
          </section>
          {going.total > 0 && (
            <section aria-label="Yours that goes soon">
              <h2>Versions of yours that go within 7 days</h2>
              <GoingTable name="Versions of yours that go" versions={going.versions} mayKeep onKept={refresh} />
            </section>
          )}
        </div>
      </div>
      {question && <NameDialog question={question} onClose={() => setQuestion(undefined)} />}
    </main>
  );
}
