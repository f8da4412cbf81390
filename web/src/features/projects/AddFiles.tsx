'use client';

/** New files of a folder, sent one after another, with progress. */
import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { newKey } from '../api/attempt-key.ts';
import { sentenceOf } from '../api/client.ts';
import { upload, type Upload } from '../api/upload.ts';
import { saySize } from '../words.ts';
import { api } from '../../contract/operations/index.ts';
import { Progress } from '../frame/Progress.tsx';

export interface Outcome {
  readonly problem: boolean;
  readonly text: string;
}

export interface Sending {
  readonly name: string;
  readonly size: number;
  readonly share: number;
  readonly left: number;
}

export function useAddFiles(
  projectId: string,
  folderId: string | null,
  onDone: (outcomes: Outcome[]) => void,
): { sending: Sending | undefined; add: (files: readonly File[], note?: string) => Promise<void>; cancel: () => void } {
  const [sending, setSending] = useState<Sending>();
  const current = useRef<Upload<unknown>>(undefined);
  const cancelled = useRef(false);
  const add = async (files: readonly File[], note = ''): Promise<void> => {
    const outcomes: Outcome[] = [];
    cancelled.current = false;
    for (const [i, file] of files.entries()) {
      if (cancelled.current) {
        outcomes.push({ problem: true, text: `${file.name} was not sent.` });
        continue;
      }
      const at = { name: file.name, size: file.size, left: files.length - i - 1 };
      setSending({ ...at, share: 0 });
      try {
        const sent = upload(
          api.files.make,
          { projectId, fields: { key: newKey(), note, ...(folderId ? { folderId } : {}) }, files: file },
          (share) => setSending({ ...at, share }),
        );
        current.current = sent;
        const made = await sent.done;
        outcomes.push({ problem: false, text: [`${made.file.name} was added as v1.`, ...made.hints].join(' ') });
      } catch (error) {
        outcomes.push({ problem: true, text: `${file.name}: ${sentenceOf(error)}` });
      }
    }
    setSending(undefined);
    onDone(outcomes);
  };
  const cancel = (): void => {
    cancelled.current = true;
    current.current?.cancel();
  };
  return { sending, add, cancel };
}

export function SendingBar({ sending, onCancel }: { sending: Sending; onCancel: () => void }): React.ReactNode {
  return (
    <div className="ov-said d-flex align-items-center gap-3" role="status">
      <span className="ov-cut" style={{ maxWidth: '40%' }}>
        Sending {sending.name}, {saySize(sending.size)}
        {sending.left ? `, ${sending.left} more after it` : ''}
      </span>
      <Progress share={sending.share} className="flex-grow-1" name="Sent" />
      <Button variant="outline-secondary" size="sm" onClick={onCancel}>
        Cancel
      </Button>
    </div>
  );
}
