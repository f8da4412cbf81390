/** Every sentence that a comparison can say, with the values that make it come out differently. */
import { causeCodes, say, type Saying } from './say.ts';
import { saidOfTables } from './testing.ts';

const shift = { dx: 120, dy: -4.5, unit: 'mm' };
const railing = { count: 1, kind: 'path', name: 'railing' };
const circles = { count: 24, kind: 'circle' };
/** Of some material. */
const place = { part: 'flange', size: [6, 6, 12], at: [20, 30, 4], deviation: 6, unit: 'mm' } as const;
const signs = { kind: 'layer', name: 'Signs' } as const;

const said: readonly (readonly [Saying, string])[] = [
  // The whole drawing.
  [{ code: 'units-converted', values: { from: 'mm', to: 'm' } }, 'Drawing units mm → m, with every number converted'],
  [{ code: 'numbers-converted', values: { ratio: 0.75 } }, 'Every number × 0.75, shown as large as before'],
  [{ code: 'units-renamed', values: { from: 'none', to: 'mm' } }, 'Drawing units none → mm'],
  [
    { code: 'units-renamed', values: { from: 'mm', to: 'in', ratio: 25.4 } },
    'Drawing units mm → in; the numbers stay, so everything is 25.4 times as large',
  ],
  [{ code: 'everything-placed', values: { shift, parts: 1 } }, 'Everything moved by (120, −4.5) mm, 1 part'],
  [
    { code: 'everything-placed', values: { scale: 2, turn: 90, shift, parts: 12_345 } },
    'Everything scaled by 2, turned by 90° and moved by (120, −4.5) mm, 12,345 parts',
  ],
  [{ code: 'renumbered', values: { only: true } }, 'Everything renumbered, nothing else'],
  [{ code: 'renumbered', values: { only: false } }, 'Everything renumbered'],
  [{ code: 'order-changed', values: { parts: 1 } }, 'Drawing order changed: 1 part stands elsewhere in it'],
  [{ code: 'order-changed', values: { parts: 3 } }, 'Drawing order changed: 3 parts stand elsewhere in it'],
  // Pages.
  [{ code: 'page-came', values: { name: 'Deck', verb: 'added', parts: 7 } }, 'Page “Deck” added, with 7 parts'],
  [{ code: 'page-came', values: { name: 'Deck', verb: 'removed', parts: 0 } }, 'Page “Deck” removed, empty'],
  [
    { code: 'page-resized', values: { names: ['Deck'], from: [420, 297], to: [841, 594], unit: 'mm' } },
    'Page “Deck”: 420 × 297 → 841 × 594 mm',
  ],
  [
    { code: 'page-resized', values: { names: ['1', '2'], from: [420, 297], to: [297, 420], unit: '' } },
    '2 pages: 420 × 297 → 297 × 420',
  ],
  [{ code: 'page-window', values: { from: [0, 0], to: [-10, 5] } }, 'Page begins at (−10, 5), before at (0, 0)'],
  [
    { code: 'page-shown', values: { from: [210, 297], to: [420, 594] } },
    'Page shown 420 × 594 mm large, before 210 × 297 mm',
  ],
  [
    { code: 'page-fitted', values: { from: 'xMidYMid meet', to: 'none' } },
    'Page fitted into its frame otherwise: xMidYMid meet → none',
  ],
  [{ code: 'page-moved', values: { name: '9', was: 4 } }, 'Page “9” was page 4'],
  [{ code: 'page-scanned-anew', values: { page: '2' } }, '“2” scanned anew; nothing on it changed'],
  [
    { code: 'page-looks-different', values: { page: '2' } },
    'Page “2” looks different, though its words and shapes are the same',
  ],
  // Blocks and definitions.
  [
    { code: 'block-exploded', values: { name: 'BOLT', placements: 1, parts: 6 } },
    'Block “BOLT” taken apart: 1 placement into 6 parts',
  ],
  [
    { code: 'block-made', values: { name: 'BOLT', placements: 3, parts: 18 } },
    '18 parts made into 3 placements of block “BOLT”',
  ],
  [
    {
      code: 'definition-changed',
      values: { kind: 'block', name: 'BOLT', placements: 24, inside: { changed: 0, added: 0, removed: 0 } },
    },
    'Block “BOLT” changed: 24 placements',
  ],
  [
    {
      code: 'definition-changed',
      values: { kind: 'symbol', name: 'bolt', placements: 1, inside: { changed: 2, added: 1, removed: 3 } },
    },
    'Symbol “bolt” changed: 1 placement (2 shapes changed, 1 added, 3 removed)',
  ],
  [
    {
      code: 'definition-changed',
      values: { kind: 'symbol', name: 'bolt', placements: 2, inside: { changed: 0, added: 1, removed: 0 } },
    },
    'Symbol “bolt” changed: 2 placements (1 shape added)',
  ],
  [
    {
      code: 'definition-changed',
      values: { kind: 'symbol', name: 'bolt', placements: 2, inside: { changed: 0, added: 0, removed: 1 } },
    },
    'Symbol “bolt” changed: 2 placements (1 shape removed)',
  ],
  [
    { code: 'definition-replaced', values: { kind: 'block', from: 'M12', to: 'M16', placements: 9 } },
    'Block “M12” replaced by “M16”: 9 placements',
  ],
  [
    { code: 'placements-renamed', values: { from: 'M12', to: 'BOLT-12', placements: 1 } },
    '“M12” renamed “BOLT-12”: 1 placement',
  ],
  [
    { code: 'paint-changed', values: { kind: 'linearGradient', name: 'sky', parts: 2 } },
    'Gradient “sky” changed: 2 parts',
  ],
  [{ code: 'paint-changed', values: { kind: 'clipPath', name: '', parts: 1 } }, 'Clip changed: 1 part'],
  [
    { code: 'paint-replaced', values: { kind: 'pattern', from: 'oak', to: 'larch', parts: 40 } },
    'Pattern “oak” replaced by “larch”: 40 parts',
  ],
  [
    { code: 'page-looks-different', values: { page: 'Sheet 30', places: 2 } },
    'Page “Sheet 30” looks different in 2 places where no part changed',
  ],
  [
    { code: 'respaced', values: { who: { count: 9, kind: 'line' }, from: 24, to: 30, unit: 'mm' } },
    '9 lines set anew, evenly: 24 → 30 mm from one to the next',
  ],
  [
    { code: 'numbers-shifted', values: { texts: 6, first: 'Sheet 5', last: 'Sheet 10', by: 1 } },
    '6 texts renumbered: “Sheet 5” to “Sheet 10”, each 1 more than before',
  ],
  [
    {
      code: 'put-on-one-layer',
      values: { who: { count: 125, kind: 'part' }, from: ['walls', 'bolts', 'text'], to: 'all' },
    },
    '125 parts of 3 layers put on layer “all”',
  ],
  [{ code: 'page-turned', values: { names: ['Page 3'], degrees: 90 } }, 'Page “Page 3” turned by 90° to the right'],
  [{ code: 'page-turned', values: { names: ['Page 1', 'Page 2'], degrees: 270 } }, '2 pages turned by 90° to the left'],
  [{ code: 'page-turned', values: { names: ['Page 1'], degrees: 180 } }, 'Page “Page 1” turned by 180°'],
  // Parts.
  [
    { code: 'rewritten', values: { count: 1, from: 'rectangle', to: 'path' } },
    '1 rectangle now written as path, drawn the same',
  ],
  [
    { code: 'rewritten', values: { count: 8, from: 'hatch', to: 'path' } },
    '8 hatches now written as paths, drawn the same',
  ],
  [{ code: 'written-otherwise', values: { parts: 12 } }, 'Written otherwise, drawn the same: 12 parts'],
  [
    { code: 'written-otherwise', values: { parts: 1, groups: 'gone' } },
    'Written otherwise, drawn the same: 1 part; no groups any more',
  ],
  [
    { code: 'lines-regrouped', values: { what: 'line', how: 'joined', from: 1200, into: 1 } },
    '1,200 lines joined into 1, nothing else',
  ],
  [
    { code: 'lines-regrouped', values: { what: 'arc', how: 'split', from: 1, into: 3 } },
    '1 arc split into 3, nothing else',
  ],
  [
    { code: 'moved', values: { who: railing, how: 'moved', by: shift, stretched: 0 } },
    'Path “railing” moved by (120, −4.5) mm',
  ],
  [
    { code: 'moved', values: { who: circles, how: 'moved', by: { dx: 0, dy: 1 / 3, unit: '' }, stretched: 2 } },
    '24 circles moved together by (0, 0.33333), and 2 parts stretched with them',
  ],
  [
    { code: 'moved', values: { who: railing, how: 'turned', turn: -90, about: [10, 20], stretched: 1 } },
    'Path “railing” turned by −90° about (10, 20), and 1 part stretched with it',
  ],
  [
    { code: 'moved', values: { who: circles, how: 'turned', turn: 5, stretched: 0 } },
    '24 circles turned together by 5°',
  ],
  [{ code: 'moved', values: { who: circles, how: 'mirrored', stretched: 0 } }, '24 circles mirrored together'],
  [{ code: 'stretched', values: { who: railing, by: shift } }, 'Path “railing” stretched by (120, −4.5) mm'],
  [{ code: 'scaled', values: { who: railing, scale: 1.5 } }, 'Path “railing” scaled by 1.5'],
  [
    { code: 'scaled', values: { who: railing, scale: 1.5, about: [0, 0] } },
    'Path “railing” scaled by 1.5 about (0, 0)',
  ],
  [
    { code: 'scaled', values: { who: circles, scale: 0.5, about: 'each' } },
    '24 circles scaled by 0.5, each where it stands',
  ],
  [
    {
      code: 'look-changed',
      values: {
        who: railing,
        values: [
          { property: 'stroke', from: 'red', to: 'blue' },
          { property: 'fill', to: 'none' },
        ],
      },
    },
    'Path “railing”: stroke red → blue, fill now none',
  ],
  [
    { code: 'looks-changed', values: { who: circles, properties: ['fill', 'stroke'] } },
    '24 circles: fill, stroke changed, each to another value',
  ],
  [{ code: 'reshaped', values: { who: railing } }, 'Path “railing” reshaped'],
  [
    { code: 'reshaped', values: { who: railing, from: '4 points', to: '6 points' } },
    'Path “railing” reshaped: 4 points → 6 points',
  ],
  [{ code: 'reshaped', values: { who: railing, from: '4 points', to: '4 points' } }, 'Path “railing” reshaped'],
  [{ code: 'property-changed', values: { who: railing, property: 'link' } }, 'Path “railing”: link changed'],
  [{ code: 'property-changed', values: { who: railing, property: 'link', to: 'a' } }, 'Path “railing”: link now “a”'],
  [
    { code: 'property-changed', values: { who: railing, property: 'link', from: '', to: 'a' } },
    'Path “railing”: link without a name → “a”',
  ],
  // Dimensions and words.
  [
    { code: 'dimension-measures', values: { who: { count: 1, kind: 'dimension' }, from: '1200', to: '1350' } },
    'One dimension: measures 1200 → 1350',
  ],
  [
    { code: 'library-changed', values: { verb: 'removed', count: 1, kind: 'symbol', name: 'bolt' } },
    'Symbol “bolt”, which nothing places, removed',
  ],
  [
    { code: 'library-changed', values: { verb: 'changed', count: 14, kind: 'symbol', name: 'bolt' } },
    '14 definitions that nothing places changed',
  ],
  [{ code: 'dimensions-redrawn', values: { count: 3 } }, '3 dimensions drawn anew'],
  [
    { code: 'words-replaced', values: { from: 'oak', to: 'larch', texts: 12 } },
    '“oak” replaced by “larch” in 12 texts',
  ],
  [{ code: 'words-replaced', values: { from: '', to: 'draft', texts: 1 } }, '“draft” put into 1 text'],
  [{ code: 'words-replaced', values: { from: 'draft', to: '', texts: 2 } }, '“draft” taken out of 2 texts'],
  [{ code: 'texts-differ', values: { texts: 5, example: 'North' } }, '5 texts say something else, such as “North”'],
  [
    { code: 'text-differs', values: { kind: 'text', name: 'x', from: 'North', to: 'South' } },
    'Text “North” now “South”',
  ],
  [
    { code: 'text-differs', values: { kind: 'attribute', name: 'SHEET', from: '4', to: '5' } },
    'Attribute “SHEET” “4” now “5”',
  ],
  [
    {
      code: 'fields-filled',
      values: { block: 'title block', fields: [{ property: 'revision', from: 'P01', to: 'P02' }], more: 2 },
    },
    'Title block: revision “P01” → “P02” and 2 more',
  ],
  // Layers of drawings.
  [{ code: 'layer-renamed', values: { from: 'A', to: 'B', parts: 4 } }, 'Layer “A” renamed “B”, 4 parts'],
  [
    { code: 'put-on-layer', values: { who: circles, from: 'A', to: 'B' } },
    '24 circles put from layer “A” on layer “B”',
  ],
  [{ code: 'put-on-layer', values: { who: railing, from: '', to: '' } }, 'Path “railing” put from no layer on none'],
  [{ code: 'layer-declared', values: { name: 'A', verb: 'added' } }, 'Layer “A” added, empty'],
  [{ code: 'layer-declared', values: { name: 'A', verb: 'removed' } }, 'Layer “A” removed; it was empty'],
  [
    { code: 'layer-look', values: { name: 'A', look: { shown: false, values: [] }, parts: 9 } },
    'Layer “A” hidden, 9 parts',
  ],
  [
    {
      code: 'layer-look',
      values: { name: 'A', look: { shown: true, values: [{ property: 'colour', from: '1', to: '3' }] }, parts: 0 },
    },
    'Layer “A” shown again; colour 1 → 3',
  ],
  [
    {
      code: 'layer-look',
      values: { name: 'A', look: { values: [{ property: 'colour', from: '1', to: '3' }] }, parts: 1 },
    },
    'Layer “A”: colour 1 → 3, 1 part',
  ],
  [
    {
      code: 'layers-look',
      values: { layers: 5, look: { shown: false, values: [{ property: 'colour', from: '1', to: '3' }] }, parts: 0 },
    },
    '5 layers: hidden, colour now 3',
  ],
  [{ code: 'layer-came', values: { name: 'A', verb: 'added', parts: 2 } }, 'Layer “A” added with 2 parts'],
  // What came and went.
  [{ code: 'copies-came', values: { count: 3, of: 'BOLT', verb: 'removed' } }, '3 placements of “BOLT” removed'],
  [{ code: 'parts-came', values: { who: railing, verb: 'added' } }, 'Path “railing” added'],
  [
    { code: 'parts-came', values: { who: circles, verb: 'removed', layers: { count: 1, name: 'Deck' } } },
    '24 circles removed on layer “Deck”',
  ],
  [
    { code: 'parts-came', values: { who: circles, verb: 'removed', layers: { count: 3, name: '' } } },
    '24 circles removed on 3 layers',
  ],
  [
    {
      code: 'group-came',
      values: {
        kinds: [
          { kind: 'path', count: 2 },
          { kind: 'text', count: 1 },
        ],
        count: 3,
        verb: 'added',
        layers: { count: 1, name: '' },
      },
    },
    '2 paths and 1 text added',
  ],
  [
    { code: 'group-came', values: { kinds: [], count: 90, verb: 'removed', layers: { count: 2, name: '' } } },
    '90 parts removed on 2 layers',
  ],
  // Lines.
  [{ code: 'lines-came', values: { lines: 1, verb: 'removed' } }, '1 line removed'],
  [{ code: 'lines-changed', values: { lines: 4 } }, '4 lines changed'],
  // Pictures as a whole.
  [{ code: 'size-differs', values: { from: [400, 300], to: [800, 600] } }, 'Size 400 × 300 → 800 × 600 px'],
  [{ code: 'mirrored', values: { way: 'across' } }, 'Mirrored left to right'],
  [{ code: 'mirrored', values: { way: 'down' } }, 'Mirrored top to bottom'],
  [{ code: 'mirrored', values: { way: 'diagonal' } }, 'Mirrored across a diagonal'],
  [{ code: 'turned', values: { degrees: 90 } }, 'Turned by 90° clockwise'],
  [{ code: 'turned', values: { degrees: -1.257 } }, 'Turned by 1.26° anticlockwise'],
  [
    { code: 'resampled', values: { across: 0.5, from: [400, 300], to: [200, 150] } },
    'Resampled to 50 %: 400 × 300 → 200 × 150 px',
  ],
  [
    { code: 'resampled', values: { across: 0.5, down: 1.001, from: [400, 300], to: [200, 300] } },
    'Stretched to 50 % across and 100.1 % down: 400 × 300 → 200 × 300 px',
  ],
  [
    {
      code: 'cropped',
      values: {
        from: [400, 300],
        to: [380, 290],
        sides: [
          { side: 'left', pixels: 20 },
          { side: 'top', pixels: 10 },
        ],
      },
    },
    'Cropped: 400 × 300 → 380 × 290 px, 20 px at the left, 10 px at the top cut off',
  ],
  [
    { code: 'canvas-grown', values: { from: [400, 300], to: [440, 300], sides: [{ side: 'right', pixels: 40 }] } },
    'Canvas made larger: 400 × 300 → 440 × 300 px, 40 px at the right added',
  ],
  [{ code: 'shifted', values: { dx: -3, dy: 0.5 } }, 'Shifted by (−3, 0.5) px'],
  [{ code: 'lightness', values: { by: 4.26 } }, 'Brighter overall, lightness +4.3 of 100'],
  [{ code: 'lightness', values: { by: -4 } }, 'Darker overall, lightness −4 of 100'],
  [{ code: 'contrast', values: { by: 1.2 } }, 'More contrast, × 1.2'],
  [{ code: 'contrast', values: { by: 0.8 } }, 'Less contrast, × 0.8'],
  [{ code: 'colours-removed', values: {} }, 'Colours removed'],
  [{ code: 'saturation', values: { by: 1.5 } }, 'Colours stronger, × 1.5'],
  [{ code: 'saturation', values: { by: 0.5 } }, 'Colours weaker, × 0.5'],
  [{ code: 'hue', values: { degrees: 30.4 } }, 'Hues turned by 30°'],
  [{ code: 'tinted', values: { towards: 'yellow' } }, 'Tinted: more yellow'],
  [{ code: 'blurred-overall', values: { edges: 0.62 } }, 'Blurred overall: edges × 0.62'],
  [{ code: 'sharpened-overall', values: { edges: 1.4 } }, 'Sharpened overall: edges × 1.4'],
  [{ code: 'grain-added', values: { size: 3.25 } }, 'Grain added all over: ± 3.3 of 255'],
  [
    { code: 'recompressed', values: { as: 'JPEG', noise: 1.2 } },
    'Compressed as JPEG: fine noise of 1.2 (CIEDE2000) on most of it',
  ],
  [{ code: 'recompressed', values: { noise: 1.2 } }, 'Compressed anew: fine noise of 1.2 (CIEDE2000) on most of it'],
  [{ code: 'recomputed', values: { noise: 0.31 } }, 'Computed anew: fine noise of 0.3 (CIEDE2000) on most of it'],
  [{ code: 'resolution', values: { to: 300 } }, 'Resolution not given → 300 dpi'],
  [{ code: 'profile', values: { from: 'sRGB', to: 'Display P3' } }, 'Colour profile sRGB → Display P3'],
  [{ code: 'depth', values: { from: 8, to: 16 } }, '8 → 16 bits a channel'],
  [{ code: 'colour-model', values: { from: 'RGB', to: 'CMYK' } }, 'Colour model RGB → CMYK'],
  [{ code: 'transparency', values: { possible: true } }, 'May be transparent now'],
  [{ code: 'transparency', values: { possible: false } }, 'Not transparent any more'],
  [{ code: 'palette', values: { limited: true } }, 'Colours limited to a palette'],
  [{ code: 'palette', values: { limited: false } }, 'Colours no longer limited to a palette'],
  [{ code: 'saved-as', values: { from: 'PNG', to: 'JPEG' } }, 'Saved as JPEG, before as PNG'],
  // Places of pictures.
  [
    { code: 'places', values: { nature: 'repainted', count: 1, size: [40, 30], where: ['top left'] } },
    'Painted over: 40 × 30 px at the top left',
  ],
  [
    { code: 'places', values: { nature: 'moved', count: 1, size: [40, 30], by: [12, -8], where: ['middle'] } },
    'Moved by (12, −8) px: 40 × 30 px in the middle',
  ],
  [
    { code: 'places', values: { nature: 'added', count: 7, where: ['left', 'nearly everywhere'], scan: true } },
    'Something added: 7 places at the left and nearly everywhere',
  ],
  [
    { code: 'places', values: { nature: 'darker', count: 1, size: [9, 9], where: [], scan: true } },
    'Made darker: 9 × 9 px of its scan',
  ],
  [{ code: 'frame-came', values: { name: 'Page 3', verb: 'added' } }, 'Page 3 added'],
  [{ code: 'frame-moved', values: { name: 'Page 3', was: 'page 5' } }, 'Page 3 moved: it was page 5'],
  [{ code: 'line-differs', values: { from: 'North', to: 'South' } }, 'Text “North” now “South”'],
  [
    { code: 'words-only-in', values: { side: 'A', lines: 2, examples: ['one', 'two'] } },
    'Words only in A: “one”, “two”',
  ],
  [{ code: 'words-only-in', values: { side: 'B', lines: 9, examples: ['one'] } }, 'Words only in B: 9 lines, “one” …'],
  // Layers of pictures.
  [{ code: 'layers-moved', values: { names: ['Signs'], by: [4, 0] } }, 'Layer “Signs” moved by (4, 0) px'],
  [
    { code: 'layers-moved', values: { names: ['a', 'b', 'c', 'd', 'e'], by: [4, 0] } },
    '5 layers (“a”, “b”, “c” and 2 more) moved by (4, 0) px',
  ],
  [{ code: 'picture-layer-came', values: { layer: signs, verb: 'added', hidden: false } }, 'Layer “Signs” added'],
  [
    {
      code: 'picture-layer-came',
      values: { layer: { kind: 'group', name: 'All' }, verb: 'removed', held: 3, hidden: true },
    },
    'Group “All” deleted, with 3 layers, was hidden',
  ],
  [
    { code: 'picture-layer-came', values: { layer: signs, verb: 'added', hidden: true } },
    'Layer “Signs” added, hidden',
  ],
  [{ code: 'picture-layer-renamed', values: { layer: signs, to: 'Boards' } }, 'Layer “Signs” renamed “Boards”'],
  [{ code: 'layer-visibility', values: { layer: signs, hidden: true } }, 'Layer “Signs” hidden'],
  [{ code: 'layer-visibility', values: { layer: signs, hidden: false } }, 'Layer “Signs” shown'],
  [{ code: 'layer-opacity', values: { layer: signs, from: 1, to: 0.256 } }, 'Layer “Signs”: opacity 100 % → 26 %'],
  [
    { code: 'layer-blending', values: { layer: signs, from: 'normal', to: 'multiply' } },
    'Layer “Signs”: blending normal → multiply',
  ],
  [
    { code: 'layer-words', values: { layer: signs, from: 'North\npier', to: 'South' } },
    'Layer “Signs”: “North pier” now “South”',
  ],
  [{ code: 'layer-grouped', values: { layer: signs, group: 'Boards' } }, 'Layer “Signs” put into group “Boards”'],
  [{ code: 'layer-ungrouped', values: { layer: signs, group: 'Boards' } }, 'Layer “Signs” taken out of group “Boards”'],
  [{ code: 'colour-replaced', values: { from: '#ff0000', to: '#00ff00' } }, 'Recoloured #ff0000 → #00ff00'],
  [
    { code: 'layer-order', values: { name: 'Signs', now: { where: 'above', of: 'Sky' }, was: { where: 'top' } } },
    'Order changed: layer “Signs” is now above “Sky”, was on top',
  ],
  [
    {
      code: 'layer-order',
      values: { name: 'Signs', now: { where: 'elsewhere' }, was: { where: 'beneath', of: 'Sky' } },
    },
    'Order changed: layer “Signs” is now elsewhere, was beneath “Sky”',
  ],
  [
    { code: 'layers-merged', values: { all: true, names: ['a', 'b'], into: 'a' } },
    'Layers flattened: “a” and “b” are one layer now, “a”; they look the same',
  ],
  [
    { code: 'layers-merged', values: { all: false, names: ['a', 'b', 'c'], into: 'ab' } },
    'Layers put together: “a”, “b” and “c” are one layer now, “ab”; they look the same',
  ],
  [
    { code: 'layer-divided', values: { name: 'a', into: ['b', 'c'] } },
    'Layer “a” taken apart: it is “b” and “c” now; they look the same',
  ],
  // Models.
  [
    {
      code: 'material',
      values: {
        ...place,
        verb: 'removed',
        volume: 339.292,
        bore: { diameter: 6, depth: 12, axis: [0, 0, -1], isHole: true },
      },
    },
    'Hole made: ⌀ 6 mm, 12 mm deep, along z, 339.3 mm³, at (20, 30, 4) on “flange”',
  ],
  [
    {
      code: 'material',
      values: {
        ...place,
        verb: 'added',
        volume: 339.292,
        bore: { diameter: 6, depth: 12, axis: [0, 1, 0], isHole: true },
      },
    },
    'Hole filled: ⌀ 6 mm, 12 mm deep, along y, 339.3 mm³, at (20, 30, 4) on “flange”',
  ],
  [
    {
      code: 'material',
      values: {
        ...place,
        verb: 'added',
        volume: 9,
        bore: { diameter: 6, depth: 12, axis: [0.6, 0.8, 0], isHole: false },
      },
    },
    'Round body added: ⌀ 6 mm, 12 mm long, along the axis (0.6, 0.8, 0), 9 mm³, at (20, 30, 4) on “flange”',
  ],
  [
    { code: 'material', values: { ...place, verb: 'added', volume: 1920, part: '', unit: '', deviation: 0.4 } },
    'Material added: 6 × 6 × 12, 1920 cubic units, up to 0.4 thick, at (20, 30, 4)',
  ],
  [
    { code: 'more-material', values: { places: 12, added: 40, removed: 2.5, part: '', unit: 'mm' } },
    '12 smaller places: 40 mm³ added, 2.5 mm³ removed',
  ],
  [
    { code: 'surface-moved', values: { ...place, way: 'outwards', deviation: 0.4 } },
    'Surface moved outwards by up to 0.4 mm: 6 × 6 × 12 mm, at (20, 30, 4) on “flange”',
  ],
  [
    { code: 'surface-made-anew', values: { from: 9000, to: 1200, deviation: 0.05, part: '', unit: 'mm' } },
    'Surface simplified within 0.05 mm: 9,000 → 1,200 triangles',
  ],
  [{ code: 'triangulated-anew', values: { parts: 1, from: 12, to: 48 } }, 'Only triangulated anew, 12 → 48 triangles'],
  [{ code: 'inside-out', values: { parts: 2 } }, '2 surfaces turned over: what looked outwards looks inwards'],
  [
    { code: 'model-placed', values: { mirrored: [-1, 0, 0], shift: { dx: 90, dy: 0, dz: -4, unit: 'mm' } } },
    'Everything mirrored along x and moved by (90, 0, −4) mm',
  ],
  [
    { code: 'model-placed', values: { scale: 25.4, turn: 30, axis: [0, 0, -1], ways: 2 } },
    'Everything scaled by 25.4 and turned by 30° about −z (or another way: it is symmetrical)',
  ],
  [{ code: 'model-units', values: { from: 'in', to: 'mm' } }, 'Units in → mm, with every number converted'],
  [{ code: 'y-up', values: { to: 'y' } }, 'Written with y up; the model stands as it stood'],
  [
    { code: 'storey-raised', values: { storeys: ['Upper deck', 'Roof'], by: -150, parts: 44, unit: 'mm' } },
    'Storeys “Upper deck” and “Roof” lowered by 150 mm with 44 elements',
  ],
  [
    { code: 'identities-new', values: { parts: 110, only: true, program: 'Harbour Exchange' } },
    'Exported anew by Harbour Exchange: all 110 identities are new, nothing else',
  ],
  [
    { code: 'classified', values: { who: { count: 3, kind: 'covering' }, from: 'roof' } },
    '3 coverings were classified as roof before',
  ],
  [
    {
      code: 'put-on-layer',
      values: { who: { count: 2, kind: 'pipe' }, from: 'other', to: 'ventilation', called: 'discipline' },
    },
    '2 pipes: discipline other → ventilation',
  ],
  ...saidOfTables,
  [{ code: 'picture-flattened', values: { layers: 4 } }, 'Layers flattened: 4 layers are one picture now'],
  [{ code: 'picture-layered', values: { layers: 1200 } }, 'Layers: what was one picture has 1,200 now'],
];

test.each(said.map(([saying, sentence]) => [sentence, saying] as const))('%s', (sentence, saying) => {
  expect(say(saying)).toBe(sentence);
});

test('no sentence is left out here', () => {
  expect([...new Set(said.map(([{ code }]) => code as string))].toSorted()).toEqual([...causeCodes].toSorted());
});

test('sentences end with where they belong, and begin with the layer that all of it was done to', () => {
  const moved = { code: 'shifted', values: { dx: 3, dy: 0 } } as const;
  expect(say(moved, { page: '2' })).toBe('Shifted by (3, 0) px on “2”');
  expect(say(moved, { layer: 'Signs', page: '2' })).toBe('Shifted by (3, 0) px on layer “Signs” on “2”');
  expect(say(moved, { whole: signs })).toBe('Layer “Signs”: shifted by (3, 0) px');
});

test('numbers are said as exactly as they need to be, names no longer than one can read', () => {
  const by = (dx: number): string =>
    say({ code: 'stretched', values: { who: railing, by: { dx, dy: 0, unit: 'mm' } } });
  expect(by(123_456.789)).toContain('(123456.8, 0)');
  expect(by(0.000_012_345_6)).toContain('(0.000012346, 0)');
  expect(by(1e-12)).toContain('(0, 0)');
  const long = say({ code: 'layer-renamed', values: { from: 'x'.repeat(200), to: 'y', parts: 1 } });
  expect(long).toContain(`“${'x'.repeat(59)}…”`);
});
