'use client';

import { References } from '../../references/References.tsx';
import { useFileActs } from '../state/acts.tsx';
import { useShown } from '../state/shown.tsx';

/** What the version needs, and what needs it. */
export function Referring(): React.ReactNode {
  const { file, b } = useShown();
  const { references, refreshReferences, rights } = useFileActs();
  return (
    <References
      file={file}
      version={b}
      references={references}
      refresh={refreshReferences}
      mayOrganise={rights.mayOrganise}
    />
  );
}
