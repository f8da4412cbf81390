'use client';

/** A folder of old copies: which are versions of one file, looked at and changed before anything is sent. */
import type { IntakePlan } from '@ovrel/core';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { mutate } from 'swr';
import { addressOf } from '../../contract/operation.ts';
import { api } from '../../contract/operations/index.ts';
import type { IntakeOrder, IntakeReport } from '../../workers/intake.ts';
import { KeyOfSent } from '../api/attempt-key.ts';
import { sentenceOf } from '../api/client.ts';
import { upload } from '../api/upload.ts';
import { Progress } from '../frame/Progress.tsx';
import { Said } from '../frame/Said.tsx';
import { saySize } from '../words.ts';
import { asProposed, stepsOf, toSend, type ChosenFile } from './chosen-plan.ts';
import { foundAmong, foundInDrop, type FoundFile } from './found.ts';
import { MOST_BYTES, MOST_COPIES } from './limits.ts';
import { PlannedHistory } from './PlannedHistory.tsx';
import { useStepLooks } from './useStepLooks.ts';

interface Props {
  readonly projectId: string;
  readonly name: string;
  /** Who could have made copies. */
  readonly people: readonly { readonly id: string; readonly name: string }[];
}

/** How far it is: nothing chosen, looked into, planned, being sent. */
type Stage =
  | { readonly is: 'choosing' }
  | { readonly is: 'looking'; readonly share: number; readonly path: string }
  | { readonly is: 'planned' }
  | { readonly is: 'sending'; readonly share: number };

/** Why what was chosen cannot be looked into. */
function refused(found: readonly FoundFile[]): string | undefined {
  const size = found.reduce((sum, { file }) => sum + file.size, 0);
  if (found.length === 0) return 'There are no files in that folder.';
  if (found.length > MOST_COPIES)
    return `${found.length.toLocaleString('en')} files are more than can be taken in at once (${MOST_COPIES.toLocaleString('en')}). Take them in folder by folder.`;
  if (size > MOST_BYTES)
    return `${saySize(size)} are more than can be taken in at once (${saySize(MOST_BYTES)}). Take them in folder by folder.`;
  return undefined;
}

export function IntakePage({ projectId, name, people }: Props): React.ReactNode {
  const router = useRouter();
  const [stage, setStage] = useState<Stage>({ is: 'choosing' });
  const [files, setFiles] = useState<ReadonlyMap<string, File>>(new Map());
  const [chosen, setChosen] = useState<readonly ChosenFile[]>([]);
  const [alone, setAlone] = useState<readonly string[]>([]);
  const [said, setSaid] = useState<{ problem: boolean; text: string }>();
  const [isOver, setIsOver] = useState(false);
  const [keys] = useState(() => new KeyOfSent());
  const stop = useRef<() => void>(undefined);
  useEffect(() => () => stop.current?.(), []);

  const planned = (plan: IntakePlan, found: readonly FoundFile[]): void => {
    setFiles(new Map(found.map(({ path, file }) => [path, file])));
    setChosen(plan.files.map(asProposed));
    setAlone(plan.left);
    setStage({ is: 'planned' });
  };

  const look = (found: readonly FoundFile[]): void => {
    const problem = refused(found);
    setSaid(problem === undefined ? undefined : { problem: true, text: problem });
    if (problem !== undefined) return;
    setStage({ is: 'looking', share: 0, path: '' });
    const worker = new Worker(new URL('../../workers/intake.ts', import.meta.url), { type: 'module' });
    const end = (text?: string): void => {
      worker.terminate();
      setStage({ is: 'choosing' });
      if (text !== undefined) setSaid({ problem: true, text });
    };
    stop.current = end;
    worker.onmessage = ({ data }: MessageEvent<IntakeReport>) => {
      if (data.kind === 'progress') setStage({ is: 'looking', share: data.share, path: data.path });
      else if (data.kind === 'failed') end(data.sentence);
      else {
        end();
        planned(data.plan, data.files);
      }
    };
    worker.onerror = (event) => end(event.message || 'The copies could not be looked into.');
    worker.postMessage({ files: found } satisfies IntakeOrder);
  };

  const takeIn = async (): Promise<void> => {
    const sent = toSend(chosen, (path) => files.get(path)?.lastModified);
    const text = JSON.stringify(sent.files);
    const contents = sent.paths.flatMap((path) => files.get(path) ?? []);
    setSaid(undefined);
    setStage({ is: 'sending', share: 0 });
    try {
      const request = { projectId, fields: { key: keys.for(text), plan: text }, files: contents };
      const sending = upload(api.intake.takeIn, request, (share) => setStage({ is: 'sending', share }));
      stop.current = sending.cancel;
      const done = await sending.done;
      // The project's page may have been looked at before.
      router.refresh();
      await mutate(addressOf(api.projects.contents, { projectId, query: {} }));
      setSaid({ problem: false, text: done.sentence });
      setStage({ is: 'choosing' });
    } catch (error) {
      setSaid({ problem: true, text: sentenceOf(error) });
      setStage({ is: 'planned' });
    }
  };

  const busy = stage.is === 'looking' || stage.is === 'sending';
  const drop = (event: React.DragEvent): void => {
    setIsOver(false);
    if (busy || event.dataTransfer.files.length === 0) return;
    event.preventDefault();
    foundInDrop(event.dataTransfer.items).then(look, (error: unknown) =>
      setSaid({ problem: true, text: sentenceOf(error) }),
    );
  };
  return (
    <div
      className={`ov-drop${isOver ? ' is-over' : ''}`}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes('Files')) return;
        event.preventDefault();
        setIsOver(!busy);
      }}
      onDragLeave={() => setIsOver(false)}
      onDrop={drop}
    >
      <main className="ov-page">
        <div className="ov-head">
          <h1>Old copies into {name}</h1>
          <Chooser
            act="Choose a folder"
            name="Folder of old copies"
            isMain={stage.is === 'choosing'}
            disabled={busy}
            asked={{ webkitdirectory: '' }}
            onChoose={look}
          />
          <Chooser
            act="Choose a ZIP"
            name="ZIP of old copies"
            disabled={busy}
            asked={{ accept: '.zip' }}
            onChoose={look}
          />
        </div>
        {said && (
          <Said problem={said.problem}>
            {said.text} {!said.problem && <Link href={`/projects/${projectId}`}>Open {name}</Link>}
          </Said>
        )}
        {stage.is === 'choosing' && !said && (
          <div className="ov-empty">
            <p>
              Drop a folder or a ZIP of copies called final-2 and v3 (1) here, or choose one. Ovrel finds out which are
              of one file, in which order, and where two came from a third. You look at the plan first, and change it;
              nothing is sent before you say so.
            </p>
          </div>
        )}
        {busy && <Busy stage={stage} onCancel={() => stop.current?.()} />}
        {(stage.is === 'planned' || stage.is === 'sending') && (
          <Planned
            chosen={chosen}
            alone={alone}
            files={files}
            people={people}
            busy={busy}
            onChange={setChosen}
            onTakeIn={() => void takeIn()}
          />
        )}
      </main>
    </div>
  );
}

interface ChooserProps {
  readonly act: string;
  /** What is chosen. */
  readonly name: string;
  readonly isMain?: boolean;
  readonly disabled: boolean;
  /** Attributes of the field. */
  readonly asked: Readonly<Record<string, string>>;
  readonly onChoose: (found: readonly FoundFile[]) => void;
}

function Chooser({ act, name, isMain = false, disabled, asked, onChoose }: ChooserProps): React.ReactNode {
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button
        variant={isMain ? 'primary' : 'outline-secondary'}
        disabled={disabled}
        onClick={() => field.current?.click()}
      >
        {act}
      </Button>
      <input
        ref={(element) => {
          field.current = element;
          for (const [attribute, value] of Object.entries(asked)) element?.setAttribute(attribute, value);
        }}
        type="file"
        multiple={'webkitdirectory' in asked}
        hidden
        aria-label={name}
        onChange={(event) => {
          onChoose(foundAmong([...(event.target.files ?? [])]));
          event.target.value = '';
        }}
      />
    </>
  );
}

interface BusyProps {
  readonly stage: Extract<Stage, { is: 'looking' | 'sending' }>;
  readonly onCancel: () => void;
}

function Busy({ stage, onCancel }: BusyProps): React.ReactNode {
  const isLooking = stage.is === 'looking';
  return (
    <div className="ov-plan-busy">
      <Progress share={stage.share} name={isLooking ? 'Copies looked into' : 'Copies sent'} className="mb-2" />
      <span className="ov-quiet">{isLooking ? `Looking into ${stage.path || 'the copies'} …` : 'Sending …'}</span>{' '}
      <Button variant="link" onClick={onCancel}>
        Cancel
      </Button>
    </div>
  );
}

interface PlannedProps {
  readonly chosen: readonly ChosenFile[];
  /** Copies that nothing else here is a version of. */
  readonly alone: readonly string[];
  readonly files: ReadonlyMap<string, File>;
  readonly people: Props['people'];
  readonly busy: boolean;
  readonly onChange: (chosen: readonly ChosenFile[]) => void;
  readonly onTakeIn: () => void;
}

/** Names of lone copies that are said. */
const FEW = 8;

function Planned({ chosen, alone, files, people, busy, onChange, onTakeIn }: PlannedProps): React.ReactNode {
  const looks = useStepLooks(files);
  const timeOf = (path: string): number | undefined => files.get(path)?.lastModified;
  const kept = useMemo(() => chosen.map((file) => stepsOf(file).length), [chosen]);
  const copies = kept.reduce((sum, n) => sum + n, 0);
  const histories = kept.filter((n) => n > 0).length;
  return (
    <>
      {chosen.map((file, k) => (
        <PlannedHistory
          key={file.planned.name}
          file={file}
          looks={looks}
          people={people}
          busy={busy}
          timeOf={timeOf}
          onChange={(next) => onChange(chosen.with(k, next))}
        />
      ))}
      {chosen.length === 0 && <p>Nothing here is a version of something else that is here.</p>}
      {alone.length > 0 && (
        <p className="ov-quiet">
          By {alone.length === 1 ? 'itself' : 'themselves'}, and left out: {alone.slice(0, FEW).join(', ')}
          {alone.length > FEW ? ` and ${alone.length - FEW} more` : ''}.
        </p>
      )}
      {copies > 0 && (
        <Button disabled={busy} onClick={onTakeIn}>
          Take {copies === 1 ? 'one copy' : `${copies} copies`} in as{' '}
          {histories === 1 ? 'one file' : `${histories} files`}
        </Button>
      )}
    </>
  );
}
