/** One visible thing is changed at a time: “No change” is the worst that could be said. */
import { compareFiles, open } from '../../index.ts';

const drawing = (inner: string, attributes = 'viewBox="0 0 200 100" width="200mm" height="100mm"'): Uint8Array =>
  new TextEncoder().encode(`<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inner}</svg>`);

const summaryOf = async (before: Uint8Array, after: Uint8Array): Promise<string> =>
  (await compareFiles(await open(before, 'a.svg'), await open(after, 'b.svg'))).comparison.summary;

/** Around what is probed stands something that stays. */
const around = (inner: string): Uint8Array =>
  drawing(`<g id="stays"><rect x="150" y="10" width="9" height="9"/><circle cx="170" cy="60" r="5"/></g>${inner}`);

const stroked = (style: string): string =>
  `<path d="M10 10H90V60" fill="none" stroke="#203040" stroke-width="4" ${style}/>`;
const text = (attributes: string, words = 'Gangway'): string =>
  `<text x="10" y="40" font-size="12" font-family="serif" ${attributes}>${words}</text>`;
const gradient = (inner: string, attributes = ''): string =>
  `<defs><linearGradient id="g" ${attributes}>${inner}</linearGradient></defs><rect width="50" height="50" fill="url(#g)"/>`;
const stops = '<stop offset="0" stop-color="red"/><stop offset="1" stop-color="blue"/>';
const symbol = (inner: string): string => `<defs><symbol id="s">${inner}</symbol></defs><use href="#s" x="10" y="10"/>`;
const clipped = (shape: string): string =>
  `<defs><clipPath id="c">${shape}</clipPath></defs><rect width="80" height="80" clip-path="url(#c)"/>`;
const masked = (shape: string): string =>
  `<defs><mask id="m">${shape}</mask></defs><rect width="80" height="80" mask="url(#m)"/>`;
const patterned = (inner: string, width = 8): string =>
  `<defs><pattern id="p" width="${width}" height="8" patternUnits="userSpaceOnUse">${inner}</pattern></defs><rect width="80" height="80" fill="url(#p)"/>`;
const marked = (inner: string, attributes = ''): string =>
  `<defs><marker id="a" markerWidth="4" markerHeight="4" ${attributes}>${inner}</marker></defs><path d="M10 10H90" stroke="black" marker-end="url(#a)"/>`;

const probes: Readonly<Record<string, readonly [before: string, after: string]>> = {
  'a fill': ['<rect width="50" height="50" fill="#aa0000"/>', '<rect width="50" height="50" fill="#ab0000"/>'],
  'a fill that is inherited': [
    '<g fill="red"><rect width="50" height="50"/></g>',
    '<g fill="blue"><rect width="50" height="50"/></g>',
  ],
  'a fill by a rule': [
    '<style>.a{fill:red}</style><rect class="a" width="50" height="50"/>',
    '<style>.a{fill:blue}</style><rect class="a" width="50" height="50"/>',
  ],
  'how opaque a fill is': [
    '<rect width="50" height="50" fill-opacity=".5"/>',
    '<rect width="50" height="50" fill-opacity=".6"/>',
  ],
  'how opaque all of it is': ['<rect width="50" height="50"/>', '<rect width="50" height="50" opacity=".4"/>'],
  'how opaque a group is': [
    '<g><rect width="50" height="50"/></g>',
    '<g opacity=".4"><rect width="50" height="50"/></g>',
  ],
  'a stroke': [stroked(''), stroked('').replace('#203040', '#203050')],
  'the width of a stroke': [stroked(''), stroked('').replace('"4"', '"5"')],
  'the width of a stroke in other units': [stroked(''), stroked('').replace('"4"', '"4mm"')],
  dashes: [stroked(''), stroked('stroke-dasharray="6 3"')],
  'where dashes begin': [stroked('stroke-dasharray="6 3"'), stroked('stroke-dasharray="6 3" stroke-dashoffset="4"')],
  'ends of lines': [stroked(''), stroked('stroke-linecap="round"')],
  'corners of lines': [stroked(''), stroked('stroke-linejoin="round"')],
  'the limit of a mitre': [stroked('stroke-miterlimit="4"'), stroked('stroke-miterlimit="1"')],
  'how opaque a stroke is': [stroked(''), stroked('stroke-opacity=".3"')],
  'what is painted first': [
    '<rect x="20" y="20" width="50" height="50" fill="red" stroke="blue" stroke-width="8"/>',
    '<rect x="20" y="20" width="50" height="50" fill="red" stroke="blue" stroke-width="8" paint-order="stroke"/>',
  ],
  'the direction of a ring, which fills a hole': [
    '<path d="M0 0H50V50H0zM10 10V40H40V10z"/>',
    '<path d="M0 0H50V50H0zM10 10H40V40H10z"/>',
  ],
  'the rule of filling': [
    '<path d="M0 0H50V50H0zM10 10H40V40H10z"/>',
    '<path fill-rule="evenodd" d="M0 0H50V50H0zM10 10H40V40H10z"/>',
  ],
  'an outline that is closed': [
    '<path d="M10 10H60V50" fill="none" stroke="black"/>',
    '<path d="M10 10H60V50z" fill="none" stroke="black"/>',
  ],
  'a polygon that is a polyline': [
    '<polygon points="10,10 60,10 60,50" fill="none" stroke="black"/>',
    '<polyline points="10,10 60,10 60,50" fill="none" stroke="black"/>',
  ],
  'rounded corners': ['<rect width="50" height="50" rx="3"/>', '<rect width="50" height="50" rx="9"/>'],
  'a curve instead of a line': ['<path d="M10 10L60 10L60 60z"/>', '<path d="M10 10C30 0 50 0 60 10L60 60z"/>'],
  visibility: ['<rect width="50" height="50"/>', '<rect width="50" height="50" visibility="hidden"/>'],
  display: ['<rect width="50" height="50"/>', '<rect width="50" height="50" display="none"/>'],
  'a transform': ['<rect width="50" height="50"/>', '<rect width="50" height="50" transform="skewX(10)"/>'],
  'what lies above': [
    '<rect width="50" height="50" fill="red"/><rect x="20" width="50" height="50" fill="blue"/>',
    '<rect x="20" width="50" height="50" fill="blue"/><rect width="50" height="50" fill="red"/>',
  ],
  words: [text(''), text('', 'Gangways')],
  'a letter': [text(''), text('').replace('Gangway', 'gangway')],
  'the size of a text': [text(''), text('').replace('"12"', '"13"')],
  'the weight of a text': [text(''), text('font-weight="bold"')],
  'a slanted text': [text(''), text('font-style="italic"')],
  'the family of a text': [text(''), text('').replace('serif', 'sans-serif')],
  'the anchor of a text': [text(''), text('text-anchor="middle"')],
  'a line under a text': [text(''), text('text-decoration="underline"')],
  'space between letters': [text(''), text('letter-spacing="3"')],
  'the length of a text': [text(''), text('textLength="90"')],
  'turned letters': [text(''), text('rotate="20"')],
  'shifted letters': [text(''), text('dx="0 4 4"')],
  'the colour of one run': [text('', 'Gang<tspan>way</tspan>'), text('', 'Gang<tspan fill="red">way</tspan>')],
  'the weight of one run': [text('', 'Gang<tspan>way</tspan>'), text('', 'Gang<tspan font-weight="bold">way</tspan>')],
  'the size of one run': [text('', 'Gang<tspan>way</tspan>'), text('', 'Gang<tspan font-size="18">way</tspan>')],
  'the place of a later line': [
    text('', '<tspan x="10" y="40">One</tspan><tspan x="10" y="56">two</tspan>'),
    text('', '<tspan x="10" y="40">One</tspan><tspan x="10" y="60">two</tspan>'),
  ],
  'a run that is hidden': [text('', 'Gang<tspan>way</tspan>'), text('', 'Gang<tspan visibility="hidden">way</tspan>')],
  'a colour of a gradient': [gradient(stops), gradient(stops.replace('blue', 'green'))],
  'where a gradient changes': [gradient(stops), gradient(stops.replace('offset="1"', 'offset=".6"'))],
  'how opaque a stop is': [
    gradient(stops),
    gradient(stops.replace('stop-color="blue"', 'stop-color="blue" stop-opacity=".2"')),
  ],
  'the direction of a gradient': [gradient(stops), gradient(stops, 'x2="0" y2="1"')],
  'how a gradient goes on': [gradient(stops, 'x2=".3"'), gradient(stops, 'x2=".3" spreadMethod="repeat"')],
  'a gradient that is turned': [gradient(stops), gradient(stops, 'gradientTransform="rotate(45)"')],
  'a colour of a gradient by a rule': [
    `<style>.e{stop-color:blue}</style>${gradient('<stop offset="0" stop-color="red"/><stop offset="1" class="e"/>')}`,
    `<style>.e{stop-color:green}</style>${gradient('<stop offset="0" stop-color="red"/><stop offset="1" class="e"/>')}`,
  ],
  'a shape of a symbol': [symbol('<rect width="9" height="9"/>'), symbol('<rect width="9" height="7"/>')],
  'a colour in a symbol': [symbol('<rect width="9" height="9"/>'), symbol('<rect width="9" height="9" fill="red"/>')],
  'a colour in a symbol by a rule': [
    `<style>.b{fill:red}</style>${symbol('<rect class="b" width="9" height="9"/>')}`,
    `<style>.b{fill:blue}</style>${symbol('<rect class="b" width="9" height="9"/>')}`,
  ],
  'words in a symbol': [symbol('<text y="9">One</text>'), symbol('<text y="9">Two</text>')],
  'a symbol that nothing places': [
    '<defs><symbol id="unused"><rect width="9" height="9"/></symbol></defs>',
    '<defs><symbol id="unused"><rect width="9" height="7"/></symbol></defs>',
  ],
  'a symbol that nothing places, gone': ['<defs><symbol id="unused"><rect width="9" height="9"/></symbol></defs>', ''],
  'the size of a placement': [
    '<defs><symbol id="s" viewBox="0 0 9 9"><rect width="9" height="9"/></symbol></defs><use href="#s" width="20" height="20"/>',
    '<defs><symbol id="s" viewBox="0 0 9 9"><rect width="9" height="9"/></symbol></defs><use href="#s" width="30" height="30"/>',
  ],
  'what a placement looks like': [
    symbol('<rect width="9" height="9"/>'),
    symbol('<rect width="9" height="9"/>').replace('<use ', '<use fill="red" '),
  ],
  'a drawing outside that is placed': ['<use href="bolts.svg#m12" x="10"/>', '<use href="bolts.svg#m16" x="10"/>'],
  'the shape of a clip': [clipped('<rect width="40" height="40"/>'), clipped('<circle cx="20" cy="20" r="20"/>')],
  'the shape of a mask': [
    masked('<rect width="40" height="40" fill="white"/>'),
    masked('<rect width="60" height="40" fill="white"/>'),
  ],
  'how much a mask lets through': [
    masked('<rect width="40" height="40" fill="white"/>'),
    masked('<rect width="40" height="40" fill="gray"/>'),
  ],
  'a shape of a pattern': [patterned('<path d="M0 0h8"/>'), patterned('<circle r="2"/>')],
  'the step of a pattern': [patterned('<circle r="2"/>'), patterned('<circle r="2"/>', 9)],
  'an arrow head': [marked('<path d="M0 0L4 2L0 4z"/>'), marked('<circle cx="2" cy="2" r="2"/>')],
  'the size of an arrow head': [
    marked('<path d="M0 0L4 2L0 4z"/>'),
    marked('<path d="M0 0L4 2L0 4z"/>').replace('markerWidth="4"', 'markerWidth="8"'),
  ],
  'a picture': [
    '<image width="20" height="20" href="data:image/png;base64,iVBORw0KGgo="/>',
    '<image width="20" height="20" href="data:image/png;base64,iVBORw0KGgp="/>',
  ],
  'how a picture fits': [
    '<image width="20" height="10" href="photo.jpg"/>',
    '<image width="20" height="10" preserveAspectRatio="none" href="photo.jpg"/>',
  ],
  'a filter': [
    '<defs><filter id="f"><feGaussianBlur stdDeviation="1"/></filter></defs><rect width="50" height="50" filter="url(#f)"/>',
    '<defs><filter id="f"><feGaussianBlur stdDeviation="4"/></filter></defs><rect width="50" height="50" filter="url(#f)"/>',
  ],
  'how things blend': [
    '<rect width="50" height="50"/>',
    '<rect width="50" height="50" style="mix-blend-mode:multiply"/>',
  ],
};

test.each(Object.keys(probes))('%s', async (name) => {
  const [before, after] = probes[name] ?? ['', ''];
  expect(await summaryOf(around(before), around(before))).toBe('No change');
  expect(await summaryOf(around(before), around(after))).not.toBe('No change');
});

const pages: Readonly<Record<string, readonly [before: string, after: string]>> = {
  'what is seen of the page': ['viewBox="0 0 200 100"', 'viewBox="10 0 200 100"'],
  'how large the page is seen': ['viewBox="0 0 200 100"', 'viewBox="0 0 100 50"'],
  'the size of the page': [
    'viewBox="0 0 200 100" width="200mm" height="100mm"',
    'viewBox="0 0 200 100" width="400mm" height="200mm"',
  ],
  'the shape of the page': [
    'viewBox="0 0 200 100" width="200mm" height="100mm"',
    'viewBox="0 0 200 100" width="200mm" height="150mm"',
  ],
  'how the page is fitted': [
    'viewBox="0 0 200 100" width="100" height="100"',
    'viewBox="0 0 200 100" width="100" height="100" preserveAspectRatio="none"',
  ],
};

test.each(Object.keys(pages))('%s', async (name) => {
  const [before, after] = (pages[name] ?? ['', '']).map((attributes) =>
    drawing('<rect x="20" y="20" width="50" height="50"/>', attributes),
  );
  expect(await summaryOf(before!, after!)).not.toBe('No change');
});

test('a symbol that waited and is placed now is told by its placement, not as gone', async () => {
  const ready = '<defs><symbol id="s"><rect width="9" height="9"/></symbol></defs>';
  const placed = `${ready.replace('"9"/>', '"7"/>')}<use href="#s" x="10" y="10"/>`;
  const summary = await summaryOf(around(ready), around(placed));
  expect(summary).toContain('added');
  expect(summary).not.toContain('which nothing places');
});
