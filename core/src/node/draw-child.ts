/**
 * Child process: a drawing or picture on standard input, a PNG thumbnail on standard output. It may hang or abort;
 * whoever starts it sets a limit.
 */
import { dirname, join } from 'node:path';
import { createRequire } from 'node:module';
import { inputOfChild } from './child.ts';

const what = process.argv[2];
const side = Number(process.argv[3]);
const input = await inputOfChild();

async function drawSvg(): Promise<Uint8Array> {
  const { Resvg } = await import('@resvg/resvg-js');
  const fonts = join(dirname(createRequire(import.meta.url).resolve('dejavu-fonts-ttf/package.json')), 'ttf');
  const probe = new Resvg(input, { font: { loadSystemFonts: false } });
  const fit =
    probe.width >= probe.height
      ? ({ mode: 'width', value: side } as const)
      : ({ mode: 'height', value: side } as const);
  const fontFiles = ['DejaVuSans', 'DejaVuSans-Bold', 'DejaVuSerif', 'DejaVuSansMono'].map((name) =>
    join(fonts, `${name}.ttf`),
  );
  return new Resvg(input, {
    fitTo: fit,
    background: '#ffffff',
    font: {
      loadSystemFonts: false,
      fontFiles,
      defaultFontFamily: 'DejaVu Sans',
      sansSerifFamily: 'DejaVu Sans',
      serifFamily: 'DejaVu Serif',
      monospaceFamily: 'DejaVu Sans Mono',
    },
  })
    .render()
    .asPng();
}

async function drawRaster(): Promise<Uint8Array> {
  const { default: sharp } = await import('sharp');
  return sharp(input, { limitInputPixels: 400_000_000 })
    .autoOrient()
    .resize(side, side, { fit: 'inside', withoutEnlargement: true })
    .png()
    .toBuffer();
}

const png = what === 'vector' ? await drawSvg() : await drawRaster();
process.stdout.write(png);
