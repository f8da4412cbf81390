/** A web worker: one step of a history that is not there yet, as a picture and in words. Nothing is sent. */
import { compareFiles, modelOf, open, svgOf, type Content } from '@ovrel/core';
import './engines.ts';

export interface StepOrder {
  readonly key: string;
  readonly name: string;
  readonly here: File;
  /** What it came from; absent for the first. */
  readonly before?: File;
}

export interface StepReport {
  readonly key: string;
  /** As SVG; “itself” where the file is a picture that a browser shows; absent where there is none. */
  readonly picture?: { readonly svg: string } | 'itself';
  readonly summary?: string;
}

/** Larger files are not looked into here, in bytes. */
const MOST = 48 * 1024 ** 2;
/** Pictures of more than this stop the page, in characters. */
const MOST_SVG = 4_000_000;

const opened = async (file: File, name: string): Promise<Content> =>
  open(new Uint8Array(await file.arrayBuffer()), name);

async function pictureOf(content: Content): Promise<StepReport['picture']> {
  if (content.card?.show === 'itself' && content.kinds[0] === 'picture') return 'itself';
  if (content.kinds[0] !== 'drawing') return undefined;
  const svg = svgOf(await modelOf(content, 'drawing'), 0);
  return svg.length > MOST_SVG ? undefined : { svg };
}

async function look({ key, name, here, before }: StepOrder): Promise<StepReport> {
  if (here.size > MOST) return { key };
  const content = await opened(here, name);
  const picture = await pictureOf(content).catch(() => undefined);
  const seen = { key, ...(picture ? { picture } : {}) };
  if (!before || before.size > MOST) return seen;
  const { comparison } = await compareFiles(await opened(before, name), content);
  return { ...seen, summary: comparison.summary };
}

addEventListener('message', ({ data }: MessageEvent<StepOrder>) => {
  void look(data)
    // What cannot be looked into is taken in all the same.
    .catch((): StepReport => ({ key: data.key }))
    .then((report) => postMessage(report));
});
