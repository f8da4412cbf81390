'use client';

import useSWR from 'swr';
import type { Version } from '../../contract/api.ts';
import { saySize } from '../words.ts';
import { useView } from './state.ts';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';

/** Bytes shown around the first difference. */
const AROUND = 64;

const fetchRange = async ([id, from]: readonly [string, number]): Promise<Uint8Array> => {
  const response = await fetch(linkTo(api.versions.content, { versionId: id }), {
    headers: { range: `bytes=${from}-${from + 2 * AROUND - 1}` },
  });
  return response.ok ? new Uint8Array(await response.arrayBuffer()) : new Uint8Array();
};

export function BytesView(): React.ReactNode {
  const { a, b, comparing, detail, result } = useView();
  const what = result?.comparison.changes[0]?.what.find((w) => w.aspect === 'content');
  const offset = what?.at ?? NaN;
  if (!comparing) {
    return (
      <div className="ov-bytes">
        <h2>{detail?.look.formatTitle ?? 'This kind of file'} has no viewer yet</h2>
        <p>It is kept byte for byte, can be downloaded, brought forward, and compared at the level of bytes.</p>
        <Dump title={`The first bytes of v${b.number}`} version={b} from={0} mark={-1} />
      </div>
    );
  }
  if (!result?.comparison.changes.length)
    return (
      <div className="ov-bytes">
        <h2>The same</h2>
        <p>
          v{a.number} and v{b.number} are equal, byte for byte.
        </p>
      </div>
    );
  const from = Number.isFinite(offset) ? Math.max(0, Math.floor((offset - AROUND / 2) / 16) * 16) : 0;
  return (
    <div className="ov-bytes">
      <h2>Different content</h2>
      <p>
        A has {a.size.toLocaleString('en')} bytes ({saySize(a.size)}), B has {b.size.toLocaleString('en')} bytes (
        {saySize(b.size)}).{' '}
        {Number.isFinite(offset) && <>The first difference is at offset {offset.toLocaleString('en')}.</>}
      </p>
      <Dump title={`A v${a.number}`} version={a} from={from} mark={offset} />
      <Dump title={`B v${b.number}`} version={b} from={from} mark={offset} />
    </div>
  );
}

function Dump({
  title,
  version,
  from,
  mark,
}: {
  title: string;
  version: Version;
  from: number;
  mark: number;
}): React.ReactNode {
  const { data } = useSWR([version.id, from] as const, fetchRange, { revalidateOnFocus: false });
  const rows = data
    ? Array.from({ length: Math.ceil(data.length / 16) }, (_, r) => data.subarray(r * 16, r * 16 + 16))
    : [];
  return (
    <>
      <h3>{title}</h3>
      <pre>
        {data?.length === 0 && 'There are no bytes here.'}
        {rows.map((row, r) => (
          <span key={r}>
            <span className="ov-quiet">{(from + r * 16).toString(16).padStart(8, '0')} </span>
            {[...row].map((byte, i) => (
              <span key={i}>
                <span style={from + r * 16 + i === mark ? { outline: '2px solid var(--ov-changed)' } : undefined}>
                  {byte.toString(16).padStart(2, '0')}
                </span>
                {i < 15 ? ' ' : ''}
              </span>
            ))}
            {'   '.repeat(16 - row.length)}
            {'  '}
            {[...row].map((byte) => (byte >= 32 && byte < 127 ? String.fromCharCode(byte) : '·')).join('')}
            {'\n'}
          </span>
        ))}
      </pre>
    </>
  );
}
