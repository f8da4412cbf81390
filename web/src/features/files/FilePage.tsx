'use client';

/** The file page: About or What changed, the viewer, and the rail. */
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { FileEntry, RailColumns, Version } from '../../contract/api.ts';
import type { Rights } from '../desk/Holder.tsx';
import { useLive } from '../live/useLive.ts';
import { Rail } from '../rail/Rail.tsx';
import { About } from './about/About.tsx';
import { WhatChanged } from './changed/WhatChanged.tsx';
import { CheckInDialog } from './CheckInDialog.tsx';
import { FileKeys } from './FileKeys.tsx';
import { FileActsProvider, useFileActs } from './state/acts.tsx';
import { ComparedProvider } from './state/compared.tsx';
import { DrawnProvider } from './state/drawn.tsx';
import { PickedProvider } from './state/picked.tsx';
import { RemarksProvider, useRemarks } from './state/remarks.tsx';
import { ShownProvider, useShown } from './state/shown.tsx';
import { refreshVersions } from './versions.ts';

const Viewer = dynamic(() => import('../viewer/Viewer.tsx').then((m) => m.Viewer), {
  ssr: false,
  loading: () => <div className="ov-viewer" />,
});

interface Props {
  readonly file: FileEntry;
  readonly rail: RailColumns;
  /** The versions that the address asks for, and the newest. */
  readonly initial: readonly Version[];
  readonly mayCheckIn: boolean;
  readonly mayBringForward: boolean;
  readonly mayErase: boolean;
  readonly rights: Rights;
}

export function FilePage({ file, rail, initial, ...rights }: Props): React.ReactNode {
  return (
    <ShownProvider file={file} rail={rail} initial={initial}>
      <ComparedProvider>
        <RemarksProvider>
          <FileActsProvider {...rights}>
            <PickedProvider>
              <DrawnProvider>
                <FileKeys />
                <Follow />
                <Body />
              </DrawnProvider>
            </PickedProvider>
          </FileActsProvider>
        </RemarksProvider>
      </ComparedProvider>
    </ShownProvider>
  );
}

/** Asks anew for what others did meanwhile. */
function Follow(): React.ReactNode {
  const router = useRouter();
  const { file } = useShown();
  const { here } = useRemarks();
  const { refreshStanding } = useFileActs();
  useLive({ file: file.id }, (event) => {
    // A check-in gives the file back, too.
    void refreshStanding();
    if (!event || event.kind === 'comment') void here.refresh();
    if (!event || event.kind === 'version') void refreshVersions(file.id);
    if (!event || event.kind === 'files') router.refresh();
  });
  return null;
}

function Body(): React.ReactNode {
  const { comparing } = useShown();
  const { mayCheckIn, dialog, open } = useFileActs();
  const [over, setOver] = useState(false);
  const hover = (event: React.DragEvent): void => {
    if (!mayCheckIn || !event.dataTransfer.types.includes('Files')) return;
    event.preventDefault();
    setOver(true);
  };
  const drop = (event: React.DragEvent): void => {
    event.preventDefault();
    setOver(false);
    const dropped = event.dataTransfer.files[0];
    if (mayCheckIn && dropped) open(<CheckInDialog dropped={dropped} />);
  };
  return (
    <main className="ov-file" onDragOver={hover} onDragLeave={() => setOver(false)} onDrop={drop}>
      {comparing ? <WhatChanged /> : <About />}
      <Viewer over={over} />
      <Rail />
      {dialog}
    </main>
  );
}
