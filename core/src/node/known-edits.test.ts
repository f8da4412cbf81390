/**
 * A flat poster and a photograph, edited in known ways: what a person would say was done, and nothing that only the
 * saving did.
 */
import sharp, { type Sharp } from 'sharp';
import type { Compared } from '../kinds/compare-files.ts';
import { comparedFiles } from '../testing.ts';

interface Drawn {
  readonly sun?: readonly [number, number];
  readonly block?: string;
  readonly price?: string;
  readonly lines?: readonly string[];
  readonly more?: string;
}

const timetable = [
  'Departures every forty minutes',
  'Bicycles travel free before nine',
  'Shelter and ticket hall open daily',
  'Please keep the gangway clear',
];

/** Strong colours beside one another, type, large plain areas: what noise models of photographs fail on. */
const poster = ({
  sun: [x, y] = [330, 70],
  block = '#ce7848',
  price = 'B 17.85',
  lines = timetable,
  more = '',
}: Drawn = {}): Sharp =>
  sharp(
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="480" height="640" font-family="DejaVu Sans">
  <rect width="480" height="640" fill="#f8f4e8"/><rect width="480" height="210" fill="#26547c"/><path d="M0 210 150 110 270 190 360 130 480 210z" fill="#18344e"/><circle cx="${x}" cy="${y}" r="34" fill="#f5c45e"/>
  <text x="28" y="290" font-size="54" fill="#181e28">QUILLMERE</text>${lines.map((line, k) => `<text x="30" y="${340 + 26 * k}" font-size="18" fill="#282c34">${line}</text>`).join('')}
  <rect x="28" y="500" width="170" height="110" fill="${block}"/><text x="240" y="560" font-size="34" fill="#18344e">${price}</text>${more}</svg>`),
  ).removeAlpha();

/** Clouds of grey with grain, and boxes of strong colours in them. */
const photograph = (): Sharp =>
  sharp(grain, { raw: { width: 480, height: 320, channels: 3 } }).composite([{ input: boxes }]);

const [grain, boxes] = ((): [Buffer, Buffer] => {
  const { sin, floor } = Math;
  let seed = 5;
  const random = (): number => {
    seed = (seed * 48_271) % 2_147_483_647;
    return seed / 2_147_483_647;
  };
  const drawn = Array.from(
    { length: 9 },
    (_, k) =>
      `<rect x="${random() * 400}" y="${random() * 260}" width="${30 + random() * 60}" height="${20 + random() * 50}" fill="${['#c02818', '#1840c8', '#18a038', '#e0d020', '#b028a0'][k % 5]}"/>`,
  ).join('');
  const grey = new Uint8Array(480 * 320 * 3);
  for (let k = 0; k < grey.length; k++)
    grey[k] = 110 + 50 * sin((floor(k / 3) % 480) / 37 + floor(k / 1440) / 53) + (random() - 0.5) * 24;
  return [
    Buffer.from(grey),
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="480" height="320">${drawn}</svg>`),
  ];
})();

const png = async (picture: Sharp): Promise<Buffer> => picture.png().toBuffer();
const again = async (picture: Sharp): Promise<Sharp> => sharp(await png(picture));

const compared = (a: Buffer, b: Buffer): Promise<Compared> => comparedFiles(['a', a], ['b', b]);

const causes = async (a: Buffer, b: Buffer): Promise<string[]> =>
  (await compared(a, b)).comparison.causes.map((c) => c.sentence);
const places = async (a: Buffer, b: Buffer): Promise<(readonly [string, readonly number[] | null])[]> =>
  (await compared(a, b)).comparison.changes.map((c) => [c.kind, c.boxB ?? c.boxA] as const);

describe('what only saving did is no place', () => {
  test.each([
    ['JPEG at 85', (p: Sharp) => p.jpeg({ quality: 85 })],
    ['JPEG at 60', (p: Sharp) => p.jpeg({ quality: 60 })],
    ['WebP at 75', (p: Sharp) => p.webp({ quality: 75 })],
  ])('%s, of a poster and of a photograph', async (_, save) => {
    expect(await places(await png(poster()), await save(poster()).toBuffer())).toEqual([]);
    expect(await places(await png(photograph()), await save(await again(photograph())).toBuffer())).toEqual([]);
  });

  test.each([
    ['half as large', (p: Sharp) => p.resize(240)],
    ['half as large again', (p: Sharp) => p.resize(720)],
    ['as large again, without smoothing', (p: Sharp) => p.resize(960, 1280, { kernel: 'nearest' })],
  ])('%s', async (_, resize) => {
    const { comparison } = await compared(await png(poster()), await png(resize(await again(poster()))));
    expect(comparison.changes).toEqual([]);
    expect(comparison.causes.map((c) => c.sentence)).toEqual([
      expect.stringMatching(/^Resampled to (50|150|200) %: 480 × 640 → /),
    ]);
  });

  test('turned by two and a half degrees', async () =>
    expect(
      await causes(await png(poster()), await png((await again(poster())).rotate(2.5, { background: '#ffffff' }))),
    ).toEqual(['Turned by 2.5° clockwise']));

  test('a place painted over is still found, in each of them', async () => {
    const edited = poster({ more: '<rect x="60" y="400" width="14" height="14" fill="#b02020"/>' });
    const a = await png(poster());
    const inside = ([, box]: readonly [string, readonly number[] | null], k: number): boolean =>
      box !== null && box[0]! <= 67 * k && box[2]! >= 67 * k && box[1]! <= 407 * k && box[3]! >= 407 * k;
    expect(
      (await places(a, await (await again(edited)).jpeg({ quality: 70 }).toBuffer())).filter((p) => inside(p, 1)),
    ).toHaveLength(1);
    expect((await places(a, await png((await again(edited)).resize(720)))).filter((p) => inside(p, 1.5))).toHaveLength(
      1,
    );
  });
});

describe('moved', () => {
  test('a sun two pixels beside, to the pixel', async () =>
    expect(await causes(await png(poster()), await png(poster({ sun: [332, 70] })))).toEqual([
      expect.stringMatching(/^Moved by \(2, 0\) px: /),
    ]));
  test('a sun somewhere else, to the pixel', async () =>
    expect(await causes(await png(poster()), await png(poster({ sun: [127, 61] })))).toEqual([
      expect.stringMatching(/^Moved by \(−203, −9\) px: /),
    ]));
  test('lines pushed down by a new one', async () => {
    const [first] = await causes(await png(poster()), await png(poster({ lines: ['Now with a café', ...timetable] })));
    expect(first).toMatch(/^Moved by \(0, 26\) px: /);
  });
  test('another price is no move, and recolouring is none', async () => {
    expect(await causes(await png(poster()), await png(poster({ price: 'B 19.40' })))).toEqual([
      expect.stringMatching(/^Painted over: /),
    ]);
    expect(await causes(await png(poster()), await png(poster({ block: '#568c66' })))).toEqual([
      'Recoloured: 172 × 112 px at the lower left',
    ]);
  });
});

describe('all of it', () => {
  test('colours limited to a palette', async () =>
    expect(await causes(await png(poster()), await poster().png({ palette: true, colours: 32 }).toBuffer())).toContain(
      'Colours limited to a palette',
    ));

  test('cropped and placed on a larger canvas, to the pixel', async () => {
    const a = await png(poster());
    expect(await causes(a, await png(sharp(a).extract({ left: 17, top: 9, width: 450, height: 600 })))).toEqual([
      'Cropped: 480 × 640 → 450 × 600 px, 17 px at the left, 9 px at the top, 13 px at the right, 31 px at the bottom cut off',
    ]);
    expect(
      await causes(a, await png(sharp(a).extend({ left: 30, right: 30, top: 20, bottom: 20, background: '#ffffff' }))),
    ).toEqual([expect.stringMatching(/^Canvas made larger: 480 × 640 → 540 × 680 px/)]);
  });
  test('a strictly repeated pattern, cut off by one of its squares', async () => {
    const board = await png(
      sharp(
        Buffer.from(
          `<svg xmlns="http://www.w3.org/2000/svg" width="480" height="320"><defs><pattern id="p" width="40" height="40" patternUnits="userSpaceOnUse"><rect width="40" height="40" fill="#fff"/><path d="M0 0h20v20H0zM20 20h20v20H20z"/></pattern></defs><rect width="480" height="320" fill="url(#p)"/></svg>`,
        ),
      ).removeAlpha(),
    );
    expect(await causes(board, await png(sharp(board).extract({ left: 20, top: 0, width: 460, height: 320 })))).toEqual(
      ['Cropped: 480 × 320 → 460 × 320 px, 20 px at the left cut off'],
    );
  });
  test.each([
    ['brighter, some colours cut off', (p: Sharp) => p.linear(1.3, 0), /^Brighter overall/],
    ['a gamma', (p: Sharp) => p.gamma(2.2, 1.6), /^(Brighter|Darker) overall/],
    ['less contrast', (p: Sharp) => p.linear(0.7, 40), /^(Brighter|Darker) overall|^Less contrast/],
    ['colours removed', (p: Sharp) => p.greyscale(), /^Colours removed|^Colour model/],
  ])('%s: no place', async (_, edit, says) => {
    for (const picture of [poster(), photograph()]) {
      const { comparison } = await compared(await png(picture), await png(edit(await again(picture))));
      expect(comparison.changes).toEqual([]);
      expect(comparison.causes[0]?.sentence).toMatch(says);
    }
  });
  test('grain is not sharpening, and sharpening is no grain', async () => {
    const a = await png((await again(photograph())).blur(1));
    const { data, info } = await sharp(a).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    let seed = 3;
    const random = (): number => {
      seed = (seed * 48_271) % 2_147_483_647;
      return seed / 2_147_483_647;
    };
    const grainy = sharp(Buffer.from(data.map((v) => Math.max(0, Math.min(255, v + (random() - 0.5) * 36)))), {
      raw: { width: info.width, height: info.height, channels: 3 },
    });
    expect(await causes(a, await png(grainy))).toEqual([expect.stringMatching(/^Grain added all over: ± \d/)]);
    expect(await causes(a, await png(sharp(a).sharpen({ sigma: 2, m1: 3, m2: 3 })))).toEqual([
      expect.stringMatching(/^Sharpened overall: edges × [12]\.\d/),
    ]);
  });
  test('another picture altogether: one place everywhere, and no talk of tones', async () => {
    const { comparison } = await compared(
      await png(photograph()),
      await png((await again(poster())).resize(480, 320, { fit: 'fill' })),
    );
    expect(comparison.causes.map((c) => c.sentence)).toEqual([
      expect.stringMatching(/^Painted over: 480 × 320 px nearly everywhere$/),
    ]);
    expect(comparison.notes).toEqual([expect.stringContaining('too little in common')]);
  });
  test('one pixel, and plain areas', async () => {
    const plain = (width: number, height: number, background: string): Promise<Buffer> =>
      png(sharp({ create: { width, height, channels: 3, background } }));
    expect(await causes(await plain(1, 1, '#000000'), await plain(1, 1, '#ff0000'))).toEqual([
      expect.stringMatching(/^Recoloured: 1 × 1 px/),
    ]);
    const { comparison } = await compared(await plain(300, 200, '#5a5a5a'), await plain(300, 200, '#626262'));
    expect([comparison.causes.map((c) => c.sentence), comparison.notes]).toEqual([
      [expect.stringMatching(/^Brighter overall/)],
      [],
    ]);
  });
  test('a disc that can be seen through now is one place', async () => {
    const disc = (opacity: number): Promise<Buffer> =>
      png(
        sharp(
          Buffer.from(
            `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><circle cx="110" cy="100" r="60" fill="#c82828" fill-opacity="${opacity}"/></svg>`,
          ),
        ),
      );
    expect(await places(await disc(1), await disc(0.6))).toEqual([
      ['changed', [expect.any(Number), expect.any(Number), expect.any(Number), expect.any(Number)]],
    ]);
  });
});

describe('several pages', () => {
  const book = async (...list: Sharp[]): Promise<Buffer> =>
    sharp(await Promise.all(list.map(async (p) => png((await again(p)).resize(300, 400, { fit: 'fill' })))), {
      join: { animated: true },
    })
      .tiff({ compression: 'lzw' })
      .toBuffer();
  const other = sharp({ create: { width: 300, height: 400, channels: 3, background: '#ffffff' } }).composite([
    {
      input: Buffer.from(
        '<svg xmlns="http://www.w3.org/2000/svg" width="300" height="400"><rect x="30" y="30" width="240" height="150" fill="#345"/><path d="M30 380 270 220" stroke="#000" stroke-width="9"/></svg>',
      ),
    },
  ]);

  test('an inserted page is one, and what follows it is compared with what it was', async () => {
    const { comparison, outlines: picture } = await compared(
      await book(poster(), photograph()),
      await book(poster(), other, photograph()),
    );
    expect(comparison.causes.map((c) => c.sentence)).toEqual(['Page 2 added']);
    // A's second page goes by the name of its pair.
    expect([picture.pages.a.map((p) => p.name), picture.pages.b.map((p) => p.name)]).toEqual([
      ['Page 1', 'Page 3'],
      ['Page 1', 'Page 2', 'Page 3'],
    ]);
    expect(
      (
        await compared(await book(poster(), other, photograph()), await book(poster(), photograph()))
      ).comparison.causes.map((c) => c.sentence),
    ).toEqual(['Page 2 of A removed']);
  });
  test('moved pages', async () =>
    expect(
      (
        await compared(await book(poster(), other, photograph()), await book(photograph(), poster(), other))
      ).comparison.causes.map((c) => c.sentence),
    ).toEqual(['Page 1 moved: it was Page 3']));
  test('frames of a moving picture, one by one', async () => {
    const film = async (...suns: (readonly [number, number])[]): Promise<Buffer> =>
      sharp(await Promise.all(suns.map(async (sun) => png((await again(poster({ sun }))).resize(240, 320)))), {
        join: { animated: true },
      })
        .gif()
        .toBuffer();
    const { comparison } = await compared(
      await film([90, 60], [200, 60], [300, 60]),
      await film([90, 60], [200, 90], [300, 60]),
    );
    expect(comparison.causes.map((c) => c.sentence)).toEqual([expect.stringMatching(/ on “Frame 2”$/)]);
  });
});
