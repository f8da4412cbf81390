/**
 * A web worker: pictures of versions, fetched, decoded and marked before they are looked at. The page gets them ready to
 * be shown; copying pixels out of it would stop it for as long as a step takes.
 */
import { marked } from '@ovrel/core/marked';

type Pixels = Parameters<typeof marked>[0];

/** A version to be shown soon. */
export interface FilmFrame {
  readonly id: string;
  /** Where its picture is. */
  readonly address: string;
  /** The version that it is marked against. */
  readonly before: string | undefined;
}

export interface FilmOrder {
  /** The nearest first; what was asked for before and is not among them is let go. */
  readonly frames: readonly FilmFrame[];
  readonly colour: readonly [number, number, number];
}

/** `picture` is null where the version has none; `marks` says which of the two it is. */
export interface FilmReport {
  readonly id: string;
  readonly marks: boolean;
  readonly picture: ImageBitmap | null;
}

/** Pictures that are kept, those that were asked for last. */
const KEPT = 48;
/** Fetched at the same time. */
const AT_ONCE = 4;
/** What could not be had is asked for again after so long, in milliseconds. */
const AGAIN = 1000;

const known = new Map<string, Pixels | null>();
const underWay = new Set<string>();
/** What the page has: the id, with a sign for marks. */
const told = new Set<string>();
let order: FilmOrder = { frames: [], colour: [0, 0, 0] };

/** On white paper. */
async function pixelsOf(answer: Response): Promise<Pixels> {
  const picture = await createImageBitmap(await answer.blob());
  const { width, height } = picture;
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('This browser gives no place to draw on.');
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, width, height);
  context.drawImage(picture, 0, 0);
  picture.close();
  return { width, height, data: context.getImageData(0, 0, width, height).data };
}

/** Undefined where it cannot be had just now. */
async function fetched(address: string): Promise<Pixels | null | undefined> {
  const answer = await fetch(address);
  if (answer.status === 404) return null;
  return answer.ok ? pixelsOf(answer) : undefined;
}

function fill(): void {
  for (const frame of order.frames) {
    if (underWay.size >= AT_ONCE) return;
    if (known.has(frame.id) || underWay.has(frame.id)) continue;
    underWay.add(frame.id);
    void fetched(frame.address)
      .catch(() => undefined)
      .then((pixels) => {
        underWay.delete(frame.id);
        if (pixels === undefined) {
          setTimeout(fill, AGAIN);
          return;
        }
        known.set(frame.id, pixels);
        tell();
        fill();
      });
  }
}

/** Hands over what is here and the page has not got: the pictures of the nearest first, then their marks. */
function tell(): void {
  for (const { id, before } of order.frames) {
    const now = known.get(id);
    if (now === undefined) continue;
    if (!told.has(id)) void give({ id, marks: false }, now);
    const earlier = before === undefined ? undefined : known.get(before);
    if (now && earlier && !told.has(markOf(id)))
      void give({ id, marks: true }, marked(inSizeOf(earlier, now), now, order.colour));
  }
}

const markOf = (id: string): string => `${id} marked`;

async function give(what: Pick<FilmReport, 'id' | 'marks'>, pixels: Pixels | null): Promise<void> {
  told.add(what.marks ? markOf(what.id) : what.id);
  const image = pixels && new ImageData(asImage(pixels.data), pixels.width, pixels.height);
  const picture = image && (await createImageBitmap(image));
  postMessage({ ...what, picture } satisfies FilmReport, { transfer: picture ? [picture] : [] });
}

/** Copied only where it has to be. */
const asImage = (data: Pixels['data']): Uint8ClampedArray<ArrayBuffer> =>
  data instanceof Uint8ClampedArray && data.buffer instanceof ArrayBuffer
    ? (data as Uint8ClampedArray<ArrayBuffer>)
    : Uint8ClampedArray.from(data);

/** The earlier one at the top left of a sheet as large as the later one. */
function inSizeOf(earlier: Pixels, { width, height }: Pixels): Pixels {
  if (earlier.width === width && earlier.height === height) return earlier;
  const data = new Uint8ClampedArray(4 * width * height).fill(255);
  const columns = 4 * Math.min(width, earlier.width);
  for (let y = 0; y < Math.min(height, earlier.height); y++)
    data.set(earlier.data.subarray(4 * y * earlier.width, 4 * y * earlier.width + columns), 4 * y * width);
  return { width, height, data };
}

addEventListener('message', ({ data }: MessageEvent<FilmOrder>) => {
  order = data;
  const near = new Set(order.frames.map(({ id }) => id));
  for (const key of told) if (!near.has(key.split(' ')[0] ?? '')) told.delete(key);
  for (const id of near) {
    const pixels = known.get(id);
    if (pixels === undefined) continue;
    known.delete(id);
    known.set(id, pixels);
  }
  for (const id of known.keys()) {
    if (known.size <= KEPT) break;
    known.delete(id);
  }
  tell();
  fill();
});
