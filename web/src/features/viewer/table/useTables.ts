import { useEffect, useRef, useState } from 'react';
import type { Version } from '../../../contract/api.ts';
import { linkTo } from '../../../contract/operation.ts';
import { api } from '../../../contract/operations/index.ts';
import type { TableOrder, TableReport, Tables } from '../../../workers/table.ts';

const addressOf = (version: Version): string => linkTo(api.versions.cells, { versionId: version.id });

/** Tables of versions, paired; undefined until they are there. */
export function useTables(
  a: Version | undefined,
  b: Version,
): { readonly tables: Tables | undefined; readonly broken: string | undefined } {
  const worker = useRef<Worker>(undefined);
  const [report, setReport] = useState<TableReport>();
  const [addressA, addressB] = [a && addressOf(a), addressOf(b)];
  useEffect(() => {
    const started = new Worker(new URL('../../../workers/table.ts', import.meta.url), { type: 'module' });
    worker.current = started;
    started.onmessage = ({ data }: MessageEvent<TableReport>) => setReport(data);
    return () => started.terminate();
  }, []);
  useEffect(() => {
    worker.current?.postMessage({ a: addressA, b: addressB } satisfies TableOrder);
  }, [addressA, addressB]);
  // What was asked for before is of other versions.
  const isOurs = report?.order.a === addressA && report?.order.b === addressB;
  if (!report || !isOurs) return { tables: undefined, broken: undefined };
  return 'tables' in report
    ? { tables: report.tables, broken: undefined }
    : { tables: undefined, broken: report.sentence };
}
