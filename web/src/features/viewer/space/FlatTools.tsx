'use client';

/** A model as lines on paper: a plan or a side, to be saved as a drawing. */
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { flatFormats, type FlatFormat } from '@ovrel/core/contract';
import type { Version } from '../../../contract/api.ts';
import { linkTo } from '../../../contract/operation.ts';
import { api } from '../../../contract/operations/index.ts';
import { useAnswer } from '../../api/useAnswer.ts';

interface Props {
  readonly version: Version;
  /** Of the file. */
  readonly name: string;
  readonly unit: string;
}

const AT_A_HEIGHT = 'height';

export function FlatTools({ version, name: fileName, unit }: Props): React.ReactNode {
  const { data } = useAnswer(api.versions.flatViews, { versionId: version.id }, { revalidateOnFocus: false });
  const [view, setView] = useState('0');
  const [height, setHeight] = useState('');
  const isPlan = view === AT_A_HEIGHT;
  const cut = Number(height);
  const isReady = data !== undefined && (!isPlan || (height.trim() !== '' && Number.isFinite(cut)));
  const link = (format: FlatFormat): string =>
    linkTo(api.versions.flat, {
      versionId: version.id,
      query: isPlan ? { cut, format } : { view: Number(view), format },
    });
  return (
    <div className="ov-section" role="group" aria-label="Draw flat">
      <Form.Select size="sm" aria-label="Drawn from" value={view} onChange={(e) => setView(e.target.value)}>
        {data?.views.map((name, k) => (
          <option key={name} value={String(k)}>
            {name}
          </option>
        ))}
        <option value={AT_A_HEIGHT}>Plan at a height …</option>
      </Form.Select>
      {isPlan && (
        <label>
          <span>Height of the cut{unit ? `, ${unit}` : ''}</span>
          <Form.Control
            size="sm"
            type="number"
            step="any"
            aria-label="Height of the cut"
            value={height}
            onChange={(e) => setHeight(e.target.value)}
          />
        </label>
      )}
      {flatFormats.map((format) =>
        isReady ? (
          <a
            key={format}
            className="btn btn-sm btn-outline-secondary"
            href={link(format)}
            download={named(fileName, version, format)}
          >
            Save as {format.toUpperCase()}
          </a>
        ) : (
          <span key={format} className="btn btn-sm btn-outline-secondary disabled">
            Save as {format.toUpperCase()}
          </span>
        ),
      )}
      <span className="ov-quiet">Compare with another file to lay it over a drawing.</span>
    </div>
  );
}

const named = (fileName: string, { number }: Version, format: string): string =>
  `${fileName.replace(/\.[^.]+$/, '')}-v${number}.${format}`;
