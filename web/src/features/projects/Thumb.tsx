'use client';

import { useState } from 'react';

const icons: Readonly<Record<string, string>> = { text: 'bi-file-text', zip: 'bi-file-zip', glb: 'bi-box' };
const pictures: ReadonlySet<string> = new Set([
  'svg',
  'png',
  'jpeg',
  'gif',
  'webp',
  'avif',
  'tiff',
  'dxf',
  'pdf',
  'ora',
  'psd',
]);

/** A small picture of a version, or a sign for its kind. */
export function Thumb({ versionId, format }: { versionId: string; format: string | null }): React.ReactNode {
  const [broken, setBroken] = useState(false);
  const shows = format !== null && pictures.has(format) && !broken;
  return (
    <span className="ov-thumb">
      {shows ? (
        <img src={`/api/v1/versions/${versionId}/thumbnail`} alt="" loading="lazy" onError={() => setBroken(true)} />
      ) : (
        <i className={`bi ${icons[format ?? ''] ?? 'bi-file-earmark'}`} aria-hidden="true" />
      )}
    </span>
  );
}
