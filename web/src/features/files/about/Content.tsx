'use client';

import { Fragment } from 'react';
import { levelCards } from '@ovrel/core/contract';
import type { VersionDetail } from '../../../contract/api.ts';
import { useCompared } from '../state/compared.tsx';
import { useShown } from '../state/shown.tsx';

type Look = VersionDetail['look'];
type Row = readonly [name: string, value: string];

/** What the content is: format, size, and what its reader found. */
export function Content(): React.ReactNode {
  const { b } = useShown();
  const look = useCompared().detail?.look;
  const rows: readonly Row[] = [
    ['Kind', look?.formatTitle ?? b.format ?? 'unknown kind'],
    ...(look
      ? [...extent(look), ...pictureRows(look), ...pageRows(look), ...solidRows(look), ...originRows(look)]
      : []),
    ['Size', `${b.size.toLocaleString('en')} bytes`],
  ];
  return (
    <>
      <h2>Content</h2>
      <dl className="ov-facts">
        {rows.map(([name, value]) => (
          <Fragment key={name}>
            <dt>{name}</dt>
            <dd>{value}</dd>
          </Fragment>
        ))}
        <dt>SHA-256</dt>
        <dd className="ov-mono ov-cut" title={b.sha256}>
          {b.sha256.slice(0, 16)}…
        </dd>
      </dl>
    </>
  );
}

function extent(look: Look): Row[] {
  const [name, of] = levelCards[look.level].counts ?? [];
  return name === undefined || of === undefined ? [] : [[name, look[of].toLocaleString('en')]];
}

function pictureRows({ picture }: Look): Row[] {
  if (!picture) return [];
  const { width, height, depth, transparent, density, colours, profile } = picture;
  return [
    ['Pixels', `${width} × ${height} px, ${depth} bits a channel${transparent ? ', transparent' : ''}`],
    ['Resolution', density ? `${Math.round(density * 10) / 10} dpi` : 'not given'],
    ['Colours', `${colours}, profile ${profile ?? 'none'}`],
  ];
}

function solidRows({ solid, units }: Look): Row[] {
  if (!solid) return [];
  const unit = units ? ` ${units}` : '';
  const say = (value: number, cube = ''): string =>
    `${Number(value.toPrecision(4)).toLocaleString('en')}${unit}${unit && cube}`;
  const holes = [
    ...(solid.open > 0 ? [`${solid.open.toLocaleString('en')} open edges`] : []),
    ...(solid.flipped > 0 ? [`${solid.flipped.toLocaleString('en')} edges inside out`] : []),
  ];
  return [
    ['Extent', `${solid.size.map((length) => Number(length.toPrecision(5)).toLocaleString('en')).join(' × ')}${unit}`],
    ['Volume', solid.closed ? say(Math.abs(solid.volume), '³') : 'unknown: it is not closed'],
    ['Surface', `${say(solid.area, '²')}, ${solid.triangles.toLocaleString('en')} triangles`],
    ['Closed', solid.closed ? 'yes' : `no: ${holes.join(', ') || 'edges of more than two faces'}`],
  ];
}

function pageRows({ page, picture }: Look): Row[] {
  if (!page || (picture && !page.unitMillimetres)) return [];
  return [['Page', sayPage(page)]];
}

const originRows = ({ formatVersion, program }: Look): Row[] => [
  ...(formatVersion ? [['Version of the format', formatVersion] as const] : []),
  ...(program ? [['Written by', program] as const] : []),
];

function sayPage({ box, unitMillimetres }: NonNullable<Look['page']>): string {
  const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = box;
  const factor = unitMillimetres ?? 1;
  const say = (value: number): string => String(Math.round(value * factor * 10) / 10);
  return `${say(x1 - x0)} × ${say(y1 - y0)} ${unitMillimetres ? 'mm' : 'units'}`;
}
