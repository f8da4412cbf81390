import Link from 'next/link';
import type { StorageReport } from '../../contract/storage.ts';
import { saySize } from '../words.ts';
import { shareOf } from './say.ts';

interface Row {
  readonly key: string;
  readonly name: React.ReactNode;
  readonly detail: string;
  readonly kept: number;
  readonly stored: number;
  readonly versions: number;
}

/** What is kept and what it takes: by project, by kind, by file. */
export function CostTables({ report }: { report: StorageReport }): React.ReactNode {
  const files = (n: number): string => `${n.toLocaleString('en')} ${n === 1 ? 'file' : 'files'}`;
  return (
    <>
      <div className="ov-pair">
        <Costs
          title="By project"
          rows={report.projects.map((p) => ({
            ...p,
            key: p.id,
            name: <Link href={`/projects/${p.id}`}>{p.name}</Link>,
            detail: files(p.files),
          }))}
        />
        <Costs
          title="By kind"
          rows={report.kinds.map((k) => ({ ...k, key: k.kind, name: k.kind, detail: files(k.files) }))}
        />
      </div>
      <Costs
        title="What each file’s history costs"
        rows={report.files.map((f) => ({
          ...f,
          key: f.id,
          name: <Link href={`/files/${f.id}`}>{f.name}</Link>,
          detail: `${f.project}, ${f.kind}`,
        }))}
      />
    </>
  );
}

function Costs({ title, rows }: { title: string; rows: readonly Row[] }): React.ReactNode {
  return (
    <section aria-label={title} className="mb-4">
      <h2>{title}</h2>
      <table className="ov-table">
        <thead>
          <tr>
            <th>Name</th>
            <th className="is-wide" aria-label="Detail" />
            <th className="is-number">Versions</th>
            <th className="is-number">Kept</th>
            <th className="is-number">Stored</th>
            <th className="is-number">Share</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.key}>
              <td>{r.name}</td>
              <td className="is-wide ov-quiet">{r.detail}</td>
              <td className="is-number">{r.versions.toLocaleString('en')}</td>
              <td className="is-number">{saySize(r.kept)}</td>
              <td className="is-number">{saySize(r.stored)}</td>
              <td className="is-number">{shareOf(r.stored, r.kept)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
