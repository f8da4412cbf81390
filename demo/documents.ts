/** The tables and documents of the landing, and a model. */

export const steelSchedules: readonly string[] = (() => {
  const rows = [
    'Mark,Section,Length mm,Count,Weight kg',
    'B1,UB 203×133×25,6200,4,625',
    'B2,UB 152×89×16,4100,6,394',
    'C1,SHS 100×6.3,2900,8,420',
    'P1,Base plate 300×20,300,8,113',
    'H1,Hinge plate 25,420,2,41',
  ];
  const more = [...rows, 'R1,Handrail CHS 48.3×3.2,9000,4,128'];
  const heavier = more.map((r) => (r.startsWith('B1') ? 'B1,UB 254×146×31,6200,4,771' : r));
  const total = [...heavier, 'Total,,,,1867'];
  return [rows, more, heavier, total].map((r) => `${r.join('\r\n')}\r\n`);
})();

export const timberSchedules: readonly string[] = (() => {
  const rows = [
    'Mark,Species,Section mm,Length mm,Count',
    'D1,Larch,145×45,2400,96',
    'D2,Larch,145×45,1200,18',
    'F1,Oak,250×250,3200,8',
    'S1,Douglas fir,200×100,3600,10',
  ];
  return [
    rows,
    rows.map((r) => (r.startsWith('D1') ? 'D1,Larch,145×45,2400,104' : r)).concat('K1,Larch,95×45,900,24'),
  ].map((r) => `${r.join('\n')}\n`);
})();

export const methodStatements: readonly string[] = (() => {
  const first = `# Method statement: pontoon and gangway

Quillmere ferry landing, rebuilding, phase 2.

## Sequence

1. Close the old landing and divert foot passengers to the slipway.
2. Drive the twelve outer piles from the barge, between tides.
3. Float the pontoon in and fix it to the piles.
4. Lift the gangway with the 40 t crane and pin the hinge.
5. Fit handrails, lighting and signs.

## Safety

- Nobody under the gangway while it hangs.
- Life jackets within two metres of the edge.
- Stop work above wind force 6.
`;
  const second = first
    .replace('Stop work above wind force 6.', 'Stop work above wind force 5, or when the harbour office says so.')
    .replace('the twelve outer piles', 'the twenty-four piles');
  const third = second.replace(
    '5. Fit handrails, lighting and signs.',
    '5. Test the hinge through its whole travel at low and high water.\n6. Fit handrails, lighting and signs.\n7. Hand over to the ferry company.',
  );
  return [first, second, third];
})();

/** The shelter as a binary STL: posts and a pitched roof. Millimetres. */
export function shelterModel(roofHeight: number): Uint8Array {
  const triangles: number[][] = [];
  const quad = (a: number[], b: number[], c: number[], d: number[]): void => {
    triangles.push([...a, ...b, ...c], [...a, ...c, ...d]);
  };
  const post = (x: number, y: number): void => {
    const [x0, x1, y0, y1, z] = [x, x + 100, y, y + 100, 2400];
    quad([x0, y0, 0], [x1, y0, 0], [x1, y0, z], [x0, y0, z]);
    quad([x1, y0, 0], [x1, y1, 0], [x1, y1, z], [x1, y0, z]);
    quad([x1, y1, 0], [x0, y1, 0], [x0, y1, z], [x1, y1, z]);
    quad([x0, y1, 0], [x0, y0, 0], [x0, y0, z], [x0, y1, z]);
  };
  for (const x of [0, 1800, 3600, 5400]) for (const y of [0, 2000]) post(x, y);
  quad([-200, -300, 2400], [5700, -300, 2400], [5700, 1050, roofHeight], [-200, 1050, roofHeight]);
  quad([-200, 2400, 2400], [-200, 1050, roofHeight], [5700, 1050, roofHeight], [5700, 2400, 2400]);
  const out = new DataView(new ArrayBuffer(84 + triangles.length * 50));
  out.setUint32(80, triangles.length, true);
  triangles.forEach((t, i) => t.forEach((v, k) => out.setFloat32(84 + i * 50 + 12 + k * 4, v, true)));
  return new Uint8Array(out.buffer);
}
