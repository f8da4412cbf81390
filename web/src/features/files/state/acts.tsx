'use client';

/** What may be done with the file, and how it goes on afterwards: dialogs, what was said, what is asked anew. */
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { RailColumns, Version } from '../../../contract/api.ts';
import type { References, Standing } from '../../../contract/desk.ts';
import { call, sentenceOf } from '../../api/client.ts';
import { useStanding, type Rights } from '../../desk/Holder.tsx';
import { contextOf } from '../../frame/context.tsx';
import { useReferences } from '../../references/References.tsx';
import { railOf, refreshVersions } from '../versions.ts';
import { useShown } from './shown.tsx';
import { api } from '../../../contract/operations/index.ts';
import { linkTo } from '../../../contract/operation.ts';

export interface Message {
  readonly problem: boolean;
  readonly text: string;
  /** Where what was made of it is to be had. */
  readonly links?: readonly { readonly href: string; readonly says: string }[];
}

/** A version that was just made. */
export interface Landed {
  readonly id: string;
  readonly lineId: string;
}

export interface FileActs {
  readonly rights: Rights;
  readonly mayCheckIn: boolean;
  readonly mayBringForward: boolean;
  readonly mayErase: boolean;
  readonly standing: Standing | undefined;
  readonly references: References | undefined;
  readonly refresh: () => Promise<unknown>;
  readonly refreshStanding: () => Promise<unknown>;
  readonly refreshReferences: () => Promise<unknown>;
  readonly dialog: React.ReactNode;
  readonly open: (dialog: React.ReactNode) => void;
  readonly close: () => void;
  readonly message: Message | undefined;
  readonly say: (message: Message | undefined) => void;
  /** Ends a dialog: says what was done, and goes to the version that came of it. */
  readonly land: (text: string, version: Landed | undefined, links?: Message['links']) => Promise<void>;
}

const [Provider, useFileActs] = contextOf<FileActs>('FileActs');
export { useFileActs };

interface Props {
  readonly rights: Rights;
  readonly mayCheckIn: boolean;
  readonly mayBringForward: boolean;
  readonly mayErase: boolean;
  readonly children: React.ReactNode;
}

export function FileActsProvider({ rights, mayCheckIn, mayBringForward, mayErase, children }: Props): React.ReactNode {
  const router = useRouter();
  const { file, b, columns, move } = useShown();
  const { standing, refresh: refreshStanding } = useStanding(file.id, lineBeside(columns)?.id);
  const { references, refresh: refreshReferences } = useReferences(b.id);
  const [dialog, open] = useState<React.ReactNode>();
  const [message, say] = useState<Message>();
  const close = (): void => open(undefined);
  // The dialog stays until the page shows where the version landed: whatever is chosen after it is not undone. What
  // cannot be asked anew just now does not hold it up.
  const land: FileActs['land'] = async (text, version, links) => {
    const line = version?.lineId ?? columns.line;
    await Promise.all([
      call(api.files.rail, railOf(file.id, line)).catch(() => columns),
      Promise.allSettled([refreshVersions(file.id), refreshStanding()]),
    ]);
    if (version) move({ line, a: version.id, b: version.id });
    close();
    say({ problem: false, text, ...(links ? { links } : {}) });
    router.refresh();
  };
  const value: FileActs = {
    rights,
    mayCheckIn: mayCheckIn && !file.deletedIn,
    mayBringForward,
    mayErase: mayErase && !file.deletedIn,
    standing,
    references,
    refresh: () => Promise.all([refreshStanding(), refreshReferences()]),
    refreshStanding,
    refreshReferences,
    dialog,
    open,
    close,
    message,
    say,
    land,
  };
  return <Provider value={value}>{children}</Provider>;
}

/** The line shown, where it is not the main line. */
export const lineBeside = ({ lines, line }: RailColumns): RailColumns['lines'][number] | undefined =>
  lines.find(({ id, position }) => id === line && position > 0);

/** Takes the file out, with the content of an older version to go on from. */
export function useGoOn(): (version: Version) => Promise<void> {
  const { file, columns } = useShown();
  const { say, refreshStanding } = useFileActs();
  const line = lineBeside(columns);
  return async (version) => {
    try {
      await call(api.checkouts.take, {
        body: { files: [file.id], from: version.id, ...(line ? { line: line.id } : {}) },
      });
      say({
        problem: false,
        text: `You have ${file.name} checked out, and v${version.number} is being downloaded. Change it in your program; what you check in is the newest version then, with v${version.number} as its source.`,
      });
      window.location.assign(linkTo(api.versions.content, { versionId: version.id }));
    } catch (error) {
      say({ problem: true, text: sentenceOf(error) });
    }
    await refreshStanding();
  };
}
