import { DxfWriter } from '../formats/dxf/write.ts';
import { bytesOf, compared, sentences, type Given } from '../testing.ts';
import { open } from '../kinds/content.ts';
import { carryOver, joinFiles, takeBack } from './files.ts';
import type { Joined } from './joined.ts';
import type { ChangedPart } from './units.ts';
import type { Choice } from '../contract/joining.ts';

const joined = async (base: Given, ours: Given, theirs: Given, name: string, prefer?: Choice): Promise<Joined> => {
  const [b, o, t] = await Promise.all([base, ours, theirs].map((given) => open(bytesOf(given), name)));
  if (!b || !o || !t) throw new Error('three contents are needed');
  return joinFiles(b, o, t, prefer ? { prefer } : {});
};

const textOf = ({ bytes }: Joined): string => new TextDecoder().decode(bytes);

const landing = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">
  <!-- Quillmere, survey of 2026 -->
  <defs><linearGradient id="water"><stop offset="0" stop-color="#9cf"/></linearGradient></defs>
  <g id="quay">
    <rect id="office" x="0" y="0" width="10" height="10" fill='red'/>
    <rect id="kiosk"   x="20" y="0" width="10" height="10"/>
    <rect id="shed" x="40" y="0" width="10" height="10"/>
  </g>
  <text id="title" x="5" y="50">Landing <tspan font-weight="bold">plan</tspan></text>
</svg>
`;

describe('joining drawings', () => {
  test('what either side did is there, and nothing else of the file is touched', async () => {
    const ours = landing.replace('x="0" y="0"', 'x="1" y="2"');
    const theirs = landing.replace('x="40"', 'x="44"').replace('>plan<', '>plan, stage two<');
    const result = await joined(landing, ours, theirs, 'landing.svg');
    expect(result.clashes).toEqual([]);
    expect(textOf(result)).toBe(
      landing.replace('x="0" y="0"', 'x="1" y="2"').replace('x="40"', 'x="44"').replace('>plan<', '>plan, stage two<'),
    );
  });

  test('a part that theirs put in brings the gradient that it is filled with', async () => {
    const theirs = landing
      .replace('</defs>', '<linearGradient id="dusk"><stop offset="1" stop-color="#c63"/></linearGradient></defs>')
      .replace('  <text', '  <rect id="bay" x="60" y="60" width="9" height="9" fill="url(#dusk)"/>\n  <text');
    const ours = landing.replace('</g>', '  <circle cx="80" cy="8" r="5"/>\n  </g>');
    const result = textOf(await joined(landing, ours, theirs, 'landing.svg'));
    expect(result).toContain('<circle cx="80" cy="8" r="5"/>');
    expect(result).toContain('fill="url(#dusk)"');
    expect(result).toContain('id="dusk"');
  });

  test('ids that both sides made up are told apart, with what refers to them', async () => {
    const gradient = (colour: string): string =>
      `<linearGradient id="new"><stop offset="1" stop-color="${colour}"/></linearGradient></defs>`;
    const put = (x: number): string => `<rect x="${x}" y="70" width="9" height="9" fill="url(#new)"/>\n  <text`;
    const ours = landing.replace('</defs>', gradient('#111')).replace('<text', put(10));
    const theirs = landing.replace('</defs>', gradient('#eee')).replace('<text', put(60));
    const result = await joined(landing, ours, theirs, 'landing.svg');
    const { comparison } = await compared(theirs, textOf(result), 'landing.svg');
    expect(comparison.changes.map((c) => [c.kind, c.boxB?.[0]])).toEqual([['added', 10]]);
  });

  test('the same part changed differently is a clash, and either choice is carried out', async () => {
    const ours = landing.replace('x="20"', 'x="25"');
    const theirs = landing.replace('x="20"', 'x="28"');
    const result = await joined(landing, ours, theirs, 'landing.svg');
    expect(result.clashes).toMatchObject([
      {
        kind: 'both-changed',
        base: { part: { key: 'kiosk' } },
        ours: { box: [25, 0, 35, 10] },
        theirs: { box: [28, 0, 38, 10] },
      },
    ]);
    expect(textOf(result)).toBe(ours);
    expect(textOf(await joined(landing, ours, theirs, 'landing.svg', 'theirs'))).toBe(theirs);
  });

  test('a part moved by one and painted by the other can have both', async () => {
    const ours = landing.replace('x="20"', 'x="25"');
    const theirs = landing.replace('x="20" y="0"', 'x="20" y="0" fill="#0a0"');
    const result = await joined(landing, ours, theirs, 'landing.svg', 'both');
    expect(result.clashes).toHaveLength(1);
    expect(textOf(result)).toContain('<rect id="kiosk"   x="25" y="0" width="10" height="10" fill="#0a0"/>');
  });

  test('a part that one removed and the other changed is a clash, both ways round', async () => {
    const without = landing.replace(/ *<rect id="shed".*\n/, '');
    const moved = landing.replace('x="40"', 'x="44"');
    const kept = await joined(landing, moved, without, 'landing.svg');
    expect(kept.clashes.map((c) => c.kind)).toEqual(['changed-and-removed']);
    expect(textOf(kept)).toBe(moved);
    expect(textOf(await joined(landing, moved, without, 'landing.svg', 'theirs'))).not.toContain('shed');
    const gone = await joined(landing, without, moved, 'landing.svg');
    expect(gone.clashes.map((c) => c.kind)).toEqual(['removed-and-changed']);
    expect(textOf(gone)).toBe(without);
    expect(textOf(await joined(landing, without, moved, 'landing.svg', 'theirs'))).toContain('id="shed" x="44"');
  });

  test('what both put in one over the other is a clash; side by side it is none', async () => {
    const put = (x: number, colour: string): string =>
      landing.replace('  </g>', `    <rect x="${x}" y="30" width="9" height="9" fill="${colour}"/>\n  </g>`);
    const apart = await joined(landing, put(10, 'red'), put(60, 'blue'), 'landing.svg');
    expect(apart.clashes).toEqual([]);
    expect(textOf(apart)).toMatch(/x="10"[^]*x="60"/);
    const over = await joined(landing, put(10, 'red'), put(12, 'blue'), 'landing.svg');
    expect(over.clashes.map((c) => c.kind)).toEqual(['same-place']);
    expect(textOf(await joined(landing, put(10, 'red'), put(12, 'blue'), 'landing.svg', 'both'))).toMatch(
      /fill="red"[^]*fill="blue"/,
    );
  });

  test('a group that was moved and a part in it that was painted come together', async () => {
    const ours = landing.replace('<g id="quay">', '<g id="quay" transform="translate(0 5)">');
    const theirs = landing.replace("fill='red'", "fill='#00f'");
    const result = await joined(landing, ours, theirs, 'landing.svg');
    expect(result.clashes).toEqual([]);
    expect(textOf(result)).toBe(ours.replace("fill='red'", "fill='#00f'"));
  });

  test('parts that theirs put into a group of their own stand there', async () => {
    const theirs = landing
      .replace('    <rect id="kiosk"', '    <g id="block">\n    <rect id="kiosk"')
      .replace('height="10"/>\n  </g>', 'height="10"/>\n    </g>\n  </g>');
    const ours = landing.replace('x="20"', 'x="25"');
    const result = textOf(await joined(landing, ours, theirs, 'landing.svg'));
    expect(result).toMatch(/<g id="block">\s*<rect id="kiosk" {3}x="25"[^]*<rect id="shed"[^]*<\/g>\s*<\/g>/);
  });

  test('what theirs put into a group goes along with it where ours moved the group', async () => {
    const ours = landing.replace('<g id="quay">', '<g id="quay" transform="translate(0 5)">');
    const put = '    <rect id="bay" x="70" y="0" width="9" height="9"/>\n  </g>';
    const result = await joined(landing, ours, landing.replace('  </g>', put), 'landing.svg');
    expect(textOf(result)).toBe(ours.replace('  </g>', put));
  });

  test('wide letters stay wide', async () => {
    const wide = (text: string): Uint8Array => {
      const words = Uint16Array.from(`\ufeff${text}`, (c) => c.charCodeAt(0));
      return new Uint8Array(words.buffer);
    };
    const ours = landing.replace('x="20"', 'x="25"');
    const result = await joined(wide(landing), wide(ours), wide(landing.replace('x="40"', 'x="44"')), 'landing.svg');
    expect(result.bytes).toEqual(wide(ours.replace('x="40"', 'x="44"')));
  });

  test('a side that cannot be read leaves whole files to choose between', async () => {
    const result = await joined(landing, landing.replace('x="20"', 'x="25"'), landing.slice(0, 300), 'landing.svg');
    expect(result.clashes).toMatchObject([{ kind: 'whole-file', choices: ['ours', 'theirs'] }]);
  });
});

interface Framing {
  readonly beam?: number;
  readonly bolt?: number;
  readonly note?: string;
  readonly post?: boolean;
  readonly extra?: boolean;
  readonly firstHandle?: number;
}

function framing({ beam = 0, bolt = 5, note = 'deck', post = true, extra = false, firstHandle }: Framing = {}): string {
  const dxf = new DxfWriter(firstHandle === undefined ? {} : { firstHandle });
  dxf.layer('steel', { colour: '#334455' });
  if (extra) dxf.layer('timber', { colour: '#884411' });
  dxf.block('bolt', [0, 0], (b) => b.circle([0, 0], 1));
  if (extra) dxf.block('cleat', [0, 0], (b) => b.line([0, 0], [3, 3]));
  dxf.line([0, beam], [100, beam], { layer: 'steel' });
  dxf.placement('bolt', [bolt, 20], { layer: 'steel' });
  dxf.text([10, 40], 5, note, { layer: 'steel' });
  if (post) dxf.circle([50, 60], 4, { layer: 'steel' });
  if (extra) dxf.placement('cleat', [80, 80], { layer: 'timber' });
  return dxf.finish();
}

describe('joining DXF drawings', () => {
  test('entities, blocks and layers of both sides are there, under handles of their own', async () => {
    const result = textOf(await joined(framing(), framing({ beam: 3 }), framing({ extra: true }), 'deck.dxf'));
    const { comparison } = await compared(framing({ beam: 3, extra: true }), result, 'deck.dxf');
    expect(comparison.changes).toEqual([]);
    const handles = [...result.matchAll(/^ {2}5\n(.+)$/gm)].map((m) => m[1]);
    expect(new Set(handles).size).toBe(handles.length);
  });

  test('a program that numbered everything anew changes nothing by that', async () => {
    const theirs = framing({ note: 'deck, west', firstHandle: 0x900 });
    const result = await joined(framing(), framing({ bolt: 8, post: false }), theirs, 'deck.dxf');
    expect(result.clashes).toEqual([]);
    const { comparison } = await compared(
      framing({ bolt: 8, post: false, note: 'deck, west' }),
      result.bytes,
      'deck.dxf',
    );
    expect(comparison.changes).toEqual([]);
  });

  test('lines that nobody changed keep their bytes', async () => {
    const base = framing().replaceAll('\n', '\r\n').replace(' 10\r\n0\r\n', ' 10\r\n0.000\r\n');
    const ours = base.replace('deck', 'deck, east');
    const theirs = base.replace(/(CIRCLE[^]*?)60/, '$161');
    const result = textOf(await joined(base, ours, theirs, 'deck.dxf'));
    expect(result).toBe(ours.replace(/(CIRCLE[^]*?)60/, '$161'));
  });
});

describe('joining texts', () => {
  const statement = 'Close the landing.\nLift the old gangway with the crane.\nSet the bearings.\nOpen the landing.\n';

  test('other words of one line', async () => {
    const ours = statement.replace('old gangway', 'rusty gangway');
    const theirs = statement.replace('the crane', 'two cranes').replace('Open', 'Reopen');
    const result = await joined(statement, ours, theirs, 'method.txt');
    expect(result.clashes).toEqual([]);
    expect(textOf(result)).toBe(
      'Close the landing.\nLift the rusty gangway with two cranes.\nSet the bearings.\nReopen the landing.\n',
    );
  });

  test('the same words are a clash; lines put in at one place, too', async () => {
    const words = await joined(
      statement,
      statement.replace('old', 'rusty'),
      statement.replace('old', 'broken'),
      'method.txt',
    );
    expect(words.clashes).toMatchObject([
      { kind: 'both-changed', ours: { text: 'Lift the rusty gangway with the crane.' } },
    ]);
    const after = (line: string): string => statement.replace('bearings.\n', `bearings.\n${line}\n`);
    const lines = await joined(statement, after('Grease them.'), after('Photograph everything.'), 'method.txt', 'both');
    expect(lines.clashes.map((c) => c.kind)).toEqual(['same-place']);
    expect(textOf(lines)).toContain('Set the bearings.\nGrease them.\nPhotograph everything.\nOpen');
  });
});

describe('taking back', () => {
  /** The change of A into B that names a part of this key. */
  const changeOf = async (a: string, b: string, key: string, name: string): Promise<ChangedPart> => {
    const { comparison, parts } = await compared(a, b, name);
    const at = comparison.changes.findIndex((c) => c.partA?.key === key || c.partB?.key === key);
    return parts?.parts[at] as ChangedPart;
  };
  const back = async (
    a: string,
    b: string,
    newest: string,
    keys: readonly string[],
    prefer?: Choice,
  ): Promise<Joined> => {
    const chosen = await Promise.all(keys.map((key) => changeOf(a, b, key, 'landing.svg')));
    const [x, y, z] = await Promise.all([a, b, newest].map((t) => open(bytesOf(t), 'landing.svg')));
    if (!x || !y || !z) throw new Error('three contents are needed');
    return takeBack(x, y, z, chosen, prefer ? { prefer } : {});
  };

  const edited = landing
    .replace(/ *<rect id="kiosk".*\n/, '')
    .replace('x="40"', 'x="44"')
    .replace("'red'", "'blue'");
  const later = edited
    .replace('>plan<', '>plan, final<')
    .replace('</svg>', '  <circle r="3" cx="90" cy="90"/>\n</svg>');

  test('only what was chosen is undone, and later work stays', async () => {
    expect(textOf(await back(landing, edited, later, ['shed']))).toBe(later.replace('x="44"', 'x="40"'));
  });

  test('a part that was removed stands where it stood', async () => {
    const result = textOf(await back(landing, edited, later, ['kiosk']));
    const { comparison } = await compared(later, result, 'landing.svg');
    expect(sentences({ comparison })).toEqual(['Rectangle “kiosk” added']);
    expect(result).toMatch(/id="office"[^]*id="kiosk"[^]*id="shed"/);
  });

  test('what somebody changed later is named, and decided', async () => {
    const touched = later.replace('x="44"', 'x="47"');
    const result = await back(landing, edited, touched, ['shed', 'office']);
    expect(result.clashes).toMatchObject([{ kind: 'both-changed', ours: { part: { key: 'shed' } } }]);
    expect(textOf(result)).toBe(touched.replace("'blue'", "'red'"));
    const all = await back(landing, edited, touched, ['shed', 'office'], 'theirs');
    expect(textOf(all)).toBe(touched.replace("'blue'", "'red'").replace('x="47"', 'x="40"'));
  });

  test('a part that only went along with its group cannot be taken back alone', async () => {
    const moved = landing.replace('<g id="quay">', '<g id="quay" transform="translate(0 5)">');
    const alone = await back(landing, moved, moved, ['kiosk']);
    expect(alone.changed).toBe(false);
    expect(alone.inseparable).toEqual(['kiosk']);
    expect(textOf(await back(landing, moved, moved, ['office', 'kiosk', 'shed']))).toBe(landing);
  });
});

describe('carrying over', () => {
  const carried = async (from: Given, into: Given, name: string, key: string, asNew = false): Promise<Joined> => {
    const [source, target] = await Promise.all([from, into].map((given) => open(bytesOf(given), name)));
    if (!source?.design || !target) throw new Error('two drawings are needed');
    const part = source.design.parts.findIndex((p) => p.key === key || p.name === key);
    return carryOver(source, target, { parts: [part], asNew });
  };

  test('a part of an older version comes back into the newest, and nothing else', async () => {
    const newest = landing.replace(/ *<rect id="kiosk".*\n/, '').replace('>plan<', '>plan, final<');
    const result = textOf(await carried(landing, newest, 'landing.svg', 'kiosk'));
    expect(result).toBe(landing.replace('>plan<', '>plan, final<'));
  });

  test('a part that is there and was changed is again as it was', async () => {
    const newest = landing.replace(
      'x="0" y="0" width="10" height="10" fill=\'red\'',
      'x="3" y="0" width="7" height="10"',
    );
    expect(textOf(await carried(landing, newest, 'landing.svg', 'office'))).toBe(landing);
  });

  test('into another file it brings groups, gradients and rules, and clashing ids get others', async () => {
    const source = landing
      .replace('<defs>', '<style>.wet{stroke:#024;stroke-width:2}</style><defs>')
      .replace('<g id="quay">', '<g id="quay" transform="translate(0 5)" opacity="0.5">')
      .replace('<rect id="shed"', '<rect id="shed" class="wet" fill="url(#water)"');
    const other = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><path id="water" d="M0 0h5v5z"/></svg>`;
    const result = textOf(await carried(source, other, 'other.svg', 'shed', true));
    const { comparison } = await compared(other, result, 'other.svg');
    expect(comparison.changes.map((c) => [c.kind, c.boxB])).toEqual([['added', [40, 5, 50, 15]]]);
    expect(result).toContain('id="water-2"');
    expect(result).toContain('fill="url(#water-2)"');
    expect(result).toMatch(/stroke:#024/);
  });

  test('a placement brings what it places, under whatever prefix the other file links', async () => {
    const source = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:x="http://www.w3.org/1999/xlink" viewBox="0 0 9 9">
      <defs><path id="leaf" d="M1 1h3v3z"/></defs><use id="tree" x:href="#leaf"/></svg>`;
    const other = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h5v1z"/></svg>';
    const result = textOf(await carried(source, other, 'other.svg', 'tree', true));
    const { comparison } = await compared(other, result, 'other.svg');
    expect(comparison.changes.map((c) => [c.kind, c.part.kind, c.boxB])).toEqual([
      ['added', 'placement', [1, 1, 4, 4]],
    ]);
  });

  test('a block of the same name that holds something else comes under another name', async () => {
    const other = new DxfWriter()
      .block('cleat', [0, 0], (b) => b.circle([0, 0], 9))
      .placement('cleat', [10, 10])
      .finish();
    const result = textOf(await carried(framing({ extra: true }), other, 'other.dxf', 'cleat', true));
    const { comparison } = await compared(other, result, 'other.dxf');
    expect(comparison.changes.map((c) => [c.kind, c.part.name, c.boxB])).toEqual([
      ['added', 'cleat_2', [80, -83, 83, -80]],
    ]);
    const again = await carried(
      framing({ extra: true }),
      textOf(await carried(framing({ extra: true }), new DxfWriter().finish(), 'o.dxf', 'cleat', true)),
      'o.dxf',
      'cleat',
      true,
    );
    expect(textOf(again)).not.toContain('cleat_2');
  });

  test('an entity brings its layer and its block', async () => {
    const other = new DxfWriter().line([0, 0], [9, 9]).finish();
    const result = textOf(await carried(framing({ extra: true }), other, 'other.dxf', 'cleat', true));
    const { comparison } = await compared(other, result, 'other.dxf');
    expect(comparison.changes.map((c) => [c.kind, c.part.name, c.part.category])).toEqual([
      ['added', 'cleat', 'timber'],
    ]);
  });
});
