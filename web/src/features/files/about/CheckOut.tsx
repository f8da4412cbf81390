'use client';

import { Holder } from '../../desk/Holder.tsx';
import { useFileActs } from '../state/acts.tsx';
import { useShown } from '../state/shown.tsx';

export function CheckOut(): React.ReactNode {
  const { file } = useShown();
  const { standing, references, rights, refresh } = useFileActs();
  return <Holder file={file} standing={standing} references={references} rights={rights} refresh={refresh} />;
}
