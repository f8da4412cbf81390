'use client';

import DropdownButton from 'react-bootstrap/DropdownButton';
import DropdownItem from 'react-bootstrap/DropdownItem';
import { cardOfVersion } from '../../cards.ts';
import { printPicture, savePdf, savePicture } from '../export.ts';
import { drawnFromParts } from '../useSheet.ts';
import { useCanvas } from './canvas-state.tsx';
import { api } from '../../../contract/operations/index.ts';
import { linkTo } from '../../../contract/operation.ts';

/** Saves and prints what is shown. */
export function SaveMenu(): React.ReactNode {
  const { view, canvas, pages, alone, stage, width, size } = useCanvas();
  const { file, b, detail } = view;
  const name = `${file.name} v${b.number}`;
  const address = linkTo(api.versions.view, { versionId: b.id });
  const page = drawnFromParts(b) ? pages.atB : undefined;
  const card = cardOfVersion(b);
  const offersLayers = card?.layers && !card.writes && detail?.look.layers.length;
  const withCanvas = (act: (canvas: HTMLCanvasElement) => void) => (): void => {
    if (canvas.current) act(canvas.current);
  };
  const saveSeen = (at: number): void => {
    const from = stage.toPage(0, 0);
    const to = width && size && stage.toPage(width, size.height);
    if (!from || !to) return;
    const box = [...from, ...to].map((v) => Number(v.toPrecision(9))).join(',');
    window.location.assign(`${address}?page=${at}&box=${box}&download=yes`);
  };
  return (
    <DropdownButton size="sm" variant="outline-secondary" align="end" title="Save …">
      <DropdownItem as="button" onClick={withCanvas((el) => savePicture(el, name))}>
        What is seen, as PNG
      </DropdownItem>
      <DropdownItem as="button" onClick={withCanvas((el) => void savePdf(el, name))}>
        What is seen, as PDF
      </DropdownItem>
      <DropdownItem href={`${address}?as=document`} download>
        The whole of it, as PDF
      </DropdownItem>
      {offersLayers ? (
        <DropdownItem href={`${address}?as=ora`} download>
          The picture, as OpenRaster
        </DropdownItem>
      ) : null}
      {alone?.b !== undefined && (
        <DropdownItem href={`${address}?layer=${alone.b}`} download={`${name} ${alone.name}.png`}>
          The layer, as PNG
        </DropdownItem>
      )}
      {page !== undefined && (
        <>
          <DropdownItem as="button" onClick={() => saveSeen(page)}>
            What is seen, as SVG
          </DropdownItem>
          <DropdownItem href={`${address}?page=${page}`} download={`${name}.svg`}>
            The page, as SVG
          </DropdownItem>
        </>
      )}
      <DropdownItem as="button" onClick={withCanvas((el) => printPicture(el, name))}>
        Print what is seen
      </DropdownItem>
    </DropdownButton>
  );
}
