'use client';

import { Holder } from '../../desk/Holder.tsx';
import { lineBeside, useFileActs } from '../state/acts.tsx';
import { useShown } from '../state/shown.tsx';

export function CheckOut(): React.ReactNode {
  const { file, columns } = useShown();
  const { standing, references, rights, refresh } = useFileActs();
  return (
    <Holder
      file={file}
      line={lineBeside(columns)}
      standing={standing}
      references={references}
      rights={rights}
      refresh={refresh}
    />
  );
}
