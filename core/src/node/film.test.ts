import sharp from 'sharp';
import { makeFilm, type FilmFrame } from './film.ts';

const frame = async (colour: string, label: string, size = 40): Promise<FilmFrame> => ({
  png: await sharp({ create: { width: size, height: 30, channels: 3, background: colour } })
    .png()
    .toBuffer(),
  label,
});
const options = { form: 'gif', pace: 500, marks: false, side: 800 } as const;

/** The middle of the picture of one frame. */
async function middle(film: Buffer, page: number): Promise<number[]> {
  const { data, info } = await sharp(film, { page }).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const at = 3 * (15 * info.width + 20);
  return [...data.subarray(at, at + 3)];
}

test.each(['gif', 'webp'] as const)('as %s every frame is shown in its order, the last the longest', async (form) => {
  const frames = [await frame('#ff0000', 'v1'), await frame('#00ff00', 'v2'), await frame('#0000ff', 'v3', 60)];
  const film = await makeFilm(frames, { ...options, form });
  const { pages, delay, width, pageHeight, format } = await sharp(film, { animated: true }).metadata();
  expect([pages, format, width, pageHeight]).toEqual([3, form, 60, 58]);
  expect(delay).toEqual([500, 500, 1500]);
  const [first, , last] = [await middle(film, 0), 0, await middle(film, 2)];
  expect(first[0]).toBeGreaterThan(200);
  expect(last[2]).toBeGreaterThan(200);
});

test('what changed since the frame before is marked where that is asked for, and the first frame never is', async () => {
  const frames = [await frame('#ffffff', 'v1'), await frame('#c0c0c0', 'v2')];
  const film = await makeFilm(frames, { ...options, form: 'webp', marks: true });
  const [red = 0, green = 0] = await middle(film, 1);
  expect(red - green).toBeGreaterThan(20);
  expect(Math.min(...(await middle(film, 0)))).toBeGreaterThan(250);
});

test('words of a label are written as they are, also those that look like marks', async () => {
  const film = await makeFilm([await frame('#ffffff', 'v1 <b>& more')], options);
  const { data, info } = await sharp(film).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const below = data.subarray(3 * info.width * 30);
  expect(Math.min(...below)).toBeLessThan(120);
});
