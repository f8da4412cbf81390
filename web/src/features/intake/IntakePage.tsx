'use client';

/** A folder of old copies: which are versions of one file, looked at and changed before anything is sent. */
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { mutate } from 'swr';
import type { IntakePlan, PlannedFile, PlannedMember } from '@ovrel/core';
import { addressOf } from '../../contract/operation.ts';
import { api } from '../../contract/operations/index.ts';
import type { IntakeOrder, IntakeReport } from '../../workers/intake.ts';
import { KeyOfSent } from '../api/attempt-key.ts';
import { sentenceOf, upload } from '../api/client.ts';
import { Progress } from '../frame/Progress.tsx';
import { Said } from '../frame/Said.tsx';
import { sayMoment, saySize } from '../words.ts';
import { toSend, without } from './chosen-plan.ts';

/** A browser holds no more at once; the command line does. */
const MOST_BYTES = 1024 ** 3;

interface Props {
  readonly projectId: string;
  readonly name: string;
}

/** How far it is: nothing chosen, looked into, planned, being sent. */
type Stage =
  | { readonly is: 'choosing' }
  | { readonly is: 'looking'; readonly share: number; readonly path: string }
  | { readonly is: 'planned'; readonly plan: IntakePlan }
  | { readonly is: 'sending'; readonly plan: IntakePlan; readonly share: number };

const hidden = (path: string): boolean => path.split('/').some((part) => part.startsWith('.'));

export function IntakePage({ projectId, name }: Props): React.ReactNode {
  const router = useRouter();
  const [stage, setStage] = useState<Stage>({ is: 'choosing' });
  const [files, setFiles] = useState<ReadonlyMap<string, File>>(new Map());
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [names, setNames] = useState<ReadonlyMap<string, string>>(new Map());
  const [said, setSaid] = useState<{ problem: boolean; text: string }>();
  const [keys] = useState(() => new KeyOfSent());
  const chooser = useRef<HTMLInputElement>(null);

  const choose = (chosen: readonly File[]): void => {
    setSaid(undefined);
    const found = chosen
      .map((file) => ({ path: file.webkitRelativePath || file.name, file }))
      .filter(({ path }) => !hidden(path));
    const size = found.reduce((sum, { file }) => sum + file.size, 0);
    if (found.length === 0 || size > MOST_BYTES) {
      const large = `${saySize(size)} are more than a browser takes at once (${saySize(MOST_BYTES)}). “npx ovrel intake” does, in the folder itself.`;
      setSaid({ problem: true, text: found.length === 0 ? 'There are no files in that folder.' : large });
      return;
    }
    setFiles(new Map(found.map(({ path, file }) => [path, file])));
    setLeft(new Set());
    setNames(new Map());
    setStage({ is: 'looking', share: 0, path: '' });
    const worker = new Worker(new URL('../../workers/intake.ts', import.meta.url), { type: 'module' });
    const end = (stageAfter: Stage, problem?: string): void => {
      worker.terminate();
      setStage(stageAfter);
      if (problem !== undefined) setSaid({ problem: true, text: problem });
    };
    worker.onmessage = ({ data }: MessageEvent<IntakeReport>) => {
      if (data.kind === 'progress') setStage({ is: 'looking', share: data.done / found.length, path: data.path });
      else if (data.kind === 'planned') end({ is: 'planned', plan: data.plan });
      else end({ is: 'choosing' }, data.sentence);
    };
    worker.onerror = (event) => end({ is: 'choosing' }, event.message || 'The folder could not be looked into.');
    worker.postMessage({ files: found } satisfies IntakeOrder);
  };

  const takeIn = async (plan: IntakePlan): Promise<void> => {
    const sent = toSend(plan, left, names, (path) => files.get(path)?.lastModified);
    const text = JSON.stringify(sent.files);
    const contents = sent.paths.flatMap((path) => files.get(path) ?? []);
    setSaid(undefined);
    setStage({ is: 'sending', plan, share: 0 });
    try {
      const request = { projectId, fields: { key: keys.for(text), plan: text }, files: contents };
      const done = await upload(api.intake.takeIn, request, (share) => setStage({ is: 'sending', plan, share })).done;
      // The project's page may have been looked at before.
      router.refresh();
      await mutate(addressOf(api.projects.contents, { projectId, query: {} }));
      setSaid({ problem: false, text: done.sentence });
      setStage({ is: 'choosing' });
    } catch (error) {
      setSaid({ problem: true, text: sentenceOf(error) });
      setStage({ is: 'planned', plan });
    }
  };

  const toggle = (path: string): void =>
    setLeft((before) => new Set(before.has(path) ? [...before].filter((p) => p !== path) : [...before, path]));

  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>Old copies into {name}</h1>
        <Button
          variant={stage.is === 'choosing' ? 'primary' : 'outline-secondary'}
          disabled={stage.is === 'looking' || stage.is === 'sending'}
          onClick={() => chooser.current?.click()}
        >
          Choose a folder
        </Button>
        <input
          ref={(element) => {
            chooser.current = element;
            element?.setAttribute('webkitdirectory', '');
          }}
          type="file"
          multiple
          hidden
          aria-label="Folder of old copies"
          onChange={(event) => {
            choose([...(event.target.files ?? [])]);
            event.target.value = '';
          }}
        />
      </div>
      {said && (
        <Said problem={said.problem}>
          {said.text} {!said.problem && <Link href={`/projects/${projectId}`}>Open {name}</Link>}
        </Said>
      )}
      {stage.is === 'choosing' && !said && (
        <p>
          Choose a folder of copies called final-2 and v3 (1). Ovrel finds out which are of one file, in which order,
          and where two came from a third. You look at the plan first; nothing is sent before you say so.
        </p>
      )}
      {stage.is === 'looking' && (
        <>
          <Progress share={stage.share} name="Copies looked into" className="mb-2" />
          <p className="ov-quiet">{stage.path ? `Looking into ${stage.path} …` : 'Looking …'}</p>
        </>
      )}
      {stage.is === 'sending' && <Progress share={stage.share} name="Copies sent" className="mb-2" />}
      {(stage.is === 'planned' || stage.is === 'sending') && (
        <Planned
          plan={stage.plan}
          busy={stage.is === 'sending'}
          left={left}
          onToggle={toggle}
          nameOf={(file) => names.get(file) ?? file}
          onName={(file, to) => setNames((before) => new Map([...before, [file, to]]))}
          timeOf={(path) => files.get(path)?.lastModified}
          onTakeIn={() => void takeIn(stage.plan)}
        />
      )}
    </main>
  );
}

interface PlannedProps {
  readonly plan: IntakePlan;
  readonly busy: boolean;
  readonly left: ReadonlySet<string>;
  readonly onToggle: (path: string) => void;
  readonly nameOf: (file: string) => string;
  readonly onName: (file: string, to: string) => void;
  readonly timeOf: (path: string) => number | undefined;
  readonly onTakeIn: () => void;
}

function Planned(props: PlannedProps): React.ReactNode {
  const { plan, busy, left, onTakeIn } = props;
  const kept = plan.files.map((file) => without(file, left).length);
  const copies = kept.reduce((sum, n) => sum + n, 0);
  const files = kept.filter((n) => n > 0).length;
  return (
    <>
      {plan.files.map((file) => (
        <OneFile key={file.name} file={file} {...props} />
      ))}
      {plan.files.length === 0 && <p>Nothing in this folder is a version of something else in it.</p>}
      {plan.left.length > 0 && (
        <p className="ov-quiet">
          By {plan.left.length === 1 ? 'itself' : 'themselves'}, and left out: {plan.left.slice(0, FEW).join(', ')}
          {plan.left.length > FEW ? ` and ${plan.left.length - FEW} more` : ''}.
        </p>
      )}
      {copies > 0 && (
        <Button disabled={busy} onClick={onTakeIn}>
          Take {copies === 1 ? 'one copy' : `${copies} copies`} in as {files === 1 ? 'one file' : `${files} files`}
        </Button>
      )}
    </>
  );
}

const FEW = 8;

const base = (path: string): string => path.split('/').at(-1) ?? path;

function cameFrom(member: PlannedMember | undefined): string {
  if (!member) return 'left out';
  return member.parent === null ? 'the first' : base(member.parent);
}

function OneFile({
  file,
  busy,
  left,
  onToggle,
  nameOf,
  onName,
  timeOf,
}: PlannedProps & { readonly file: PlannedFile }): React.ReactNode {
  const kept = new Map(without(file, left).map((member) => [member.path, member]));
  return (
    <section className="mb-4" aria-label={file.name}>
      <Form.Group className="mb-2" controlId={`name-${file.name}`}>
        <Form.Label>Name in the project</Form.Label>
        <Form.Control
          style={{ maxWidth: 420 }}
          value={nameOf(file.name)}
          maxLength={255}
          disabled={busy}
          onChange={(event) => onName(file.name, event.target.value)}
        />
      </Form.Group>
      {file.remarks.map((remark) => (
        <div key={remark} className="ov-older">
          {remark}
        </div>
      ))}
      <table className="ov-table" aria-label={`Versions of ${file.name}`}>
        <thead>
          <tr>
            <th aria-label="Take it" />
            <th>Copy</th>
            <th>Came from</th>
            <th>When</th>
            <th>How sure</th>
          </tr>
        </thead>
        <tbody>
          {file.members.map((member) => {
            const now = kept.get(member.path);
            const at = timeOf(member.path);
            return (
              <tr key={member.path} className={now ? undefined : 'is-left'}>
                <td>
                  <Form.Check
                    checked={now !== undefined}
                    disabled={busy}
                    aria-label={`Take ${member.path}`}
                    onChange={() => onToggle(member.path)}
                  />
                </td>
                <td>
                  {base(member.path)}
                  <div className="ov-quiet">
                    {member.line === 0 ? `v${member.version}` : `line ${member.line}, v${member.version}`}
                  </div>
                </td>
                <td>{cameFrom(now)}</td>
                <td className="text-nowrap">{at === undefined ? '' : sayMoment(at)}</td>
                <td>
                  {Math.round(100 * member.sure)} %<div className="ov-quiet">{member.why.join(', ')}</div>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {file.duplicates.length > 0 && (
        <p className="ov-quiet">
          The same content, not sent: {file.duplicates.map(({ path, of }) => `${base(path)} as ${base(of)}`).join(', ')}
        </p>
      )}
    </section>
  );
}
