'use client';
/** What is kept how long in a project or folder: the rule, the same tried on the past, what goes, and sweeps. */
import type { KeepingRule } from '@ovrel/core/keeping';
import type { KindId } from '@ovrel/core';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Folder } from '../../contract/api.ts';
import { contentKindSchema, type TrialResult } from '../../contract/keeping.ts';
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { told, useAttempt } from '../frame/useAttempt.tsx';
import { GoingTable } from './GoingTable.tsx';
import { RuleForm } from './RuleForm.tsx';
import { Sweep } from './Sweep.tsx';
import { TrialReport } from './TrialReport.tsx';

interface Props {
  readonly projectId: string;
  readonly name: string;
  readonly folders: readonly Folder[];
  readonly initialFolder: string | undefined;
  readonly maySweep: boolean;
  readonly mayKeep: boolean;
}

/** What goes within so many days is listed. */
const SOON = 7;

const kindNames: Readonly<Record<KindId, string>> = {
  solid: 'models',
  drawing: 'drawings and documents',
  picture: 'pictures',
  table: 'tables',
  text: 'texts',
  bytes: 'everything else',
};

export function KeepingPage({ projectId, name, folders, initialFolder, maySweep, mayKeep }: Props): React.ReactNode {
  const [folder, setFolder] = useState(initialFolder);
  const [content, setContent] = useState<KindId>();
  const going = useAnswer(api.keeping.going, { projectId, query: { days: SOON } });
  const refresh = (): void => void going.mutate();
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>Keeping rules of {name}</h1>
      </div>
      <p>
        Versions are thinned out as they get old. Whatever a rule says, the newest, keepers, and everything that
        somebody commented on, went on from or refers to stays.
      </p>
      <div className="ov-filters">
        <Form.Select
          size="sm"
          aria-label="Where"
          value={folder ?? ''}
          onChange={(e) => setFolder(e.target.value || undefined)}
        >
          <option value="">In all of the project</option>
          {folders.map(({ id, name: called }) => (
            <option key={id} value={id}>
              In the folder {called}
            </option>
          ))}
        </Form.Select>
        <Form.Select
          size="sm"
          aria-label="Of what"
          value={content ?? ''}
          onChange={(e) => setContent(contentKindSchema.safeParse(e.target.value).data)}
        >
          <option value="">of all files</option>
          {contentKindSchema.options.map((kind) => (
            <option key={kind} value={kind}>
              of {kindNames[kind]}
            </option>
          ))}
        </Form.Select>
      </div>
      <RuleHere
        key={`${folder ?? ''} ${content ?? ''}`}
        projectId={projectId}
        folder={folder}
        content={content}
        folders={folders}
        onSaid={refresh}
      />
      <section aria-label={`What goes in the next ${SOON} days`} className="mt-4">
        <h2>What goes in the next {SOON} days</h2>
        <GoingByPerson list={going.data?.versions ?? []} mayKeep={mayKeep} onKept={refresh} />
        {going.data?.total === 0 && <p className="ov-quiet">Nothing.</p>}
      </section>
      <Sweep projectId={projectId} maySweep={maySweep} onSwept={refresh} />
    </main>
  );
}

interface RuleHereProps {
  readonly projectId: string;
  readonly folder: string | undefined;
  readonly content: KindId | undefined;
  readonly folders: readonly Folder[];
  readonly onSaid: () => void;
}

function RuleHere({ projectId, folder, content, folders, onSaid }: RuleHereProps): React.ReactNode {
  const query = { folder, content };
  const { data, mutate } = useAnswer(api.keeping.get, { projectId, query }, { revalidateOnFocus: false });
  const [drafted, setDrafted] = useState<KeepingRule>();
  const [trial, setTrial] = useState<TrialResult>();
  const [busy, setBusy] = useState(false);
  const { said, attempt } = useAttempt(async () => setBusy(false));
  if (!data) return <p aria-busy="true">Looking what holds here …</p>;
  const rule = drafted ?? data.rule;
  const draft = (next: KeepingRule): void => {
    setDrafted(next);
    setTrial(undefined);
  };
  const act = (sentence: string, work: () => Promise<unknown>): void => {
    setBusy(true);
    void told(attempt(sentence, work));
  };
  const tryIt = (): void =>
    act('Tried: what came of it is below.', async () => {
      setTrial(await call(api.keeping.try, { projectId, body: { ...query, rule } }));
    });
  const set = (next: KeepingRule | null): void =>
    act(
      next ? 'This holds from now on. Nothing goes before the next sweep.' : 'Here it is as above again.',
      async () => {
        await call(api.keeping.set, { projectId, body: { ...query, rule: next } });
        setDrafted(undefined);
        await mutate();
        onSaid();
      },
    );
  return (
    <>
      <p className="ov-quiet">{sayWhere(data.from, data.said, folders)}</p>
      <RuleForm rule={rule} disabled={!data.mayChange} onChange={draft} />
      {said}
      <div className="ov-rule-bar">
        <Button variant={data.mayChange ? 'outline-secondary' : 'primary'} disabled={busy} onClick={tryIt}>
          Try it on the past
        </Button>
        {data.mayChange && (
          <Button disabled={busy || drafted === undefined} onClick={() => set(rule)}>
            Let this hold
          </Button>
        )}
        {data.mayChange && drafted && (
          <Button variant="link" onClick={() => setDrafted(undefined)}>
            As it was
          </Button>
        )}
        {data.mayChange && data.said && (
          <Button variant="link" disabled={busy} onClick={() => set(null)}>
            Say nothing here
          </Button>
        )}
      </div>
      {trial && <TrialReport trial={trial} onTake={data.mayChange ? draft : undefined} />}
    </>
  );
}

type From = { readonly folder: string | null; readonly content: KindId | null; readonly by: string } | null;

function sayWhere(from: From, said: boolean, folders: readonly Folder[]): string {
  if (!from) return 'Nothing is said here or above, so all versions are kept for ever.';
  if (said) return `Said here by ${from.by}.`;
  const place = folders.find(({ id }) => id === from.folder)?.name;
  const where = place === undefined ? 'of the whole project' : `of the folder ${place}`;
  const what = from.content === null ? '' : `, for ${kindNames[from.content]}`;
  return `As it is said ${where}${what}, by ${from.by}.`;
}

interface GoingByPersonProps {
  readonly list: React.ComponentProps<typeof GoingTable>['versions'];
  readonly mayKeep: boolean;
  readonly onKept: () => void;
}

function GoingByPerson({ list, ...rest }: GoingByPersonProps): React.ReactNode {
  return [...Map.groupBy(list, ({ by }) => by.id)].map(([id, versions]) => (
    <div key={id}>
      <h3>{versions[0]?.by.name}</h3>
      <GoingTable name={`What goes of ${versions[0]?.by.name ?? ''}`} versions={versions} {...rest} />
    </div>
  ));
}
