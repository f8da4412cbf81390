import { readFileSync, writeFileSync } from 'node:fs';
import '/work/main/core/src/node/index.ts';
import { open, compareFiles } from '/work/main/core/src/index.ts';
let pairs = JSON.parse(readFileSync('/tmp/corpus/pairs.json', 'utf8'));
const only = process.argv[2];
if (only) pairs = pairs.filter(([a, b]: any) => (a + ' | ' + b).match(only));
const out: any = {};
const input = async (n: string) => open(new Uint8Array(readFileSync('/tmp/corpus/' + n)), n);
const t0 = Date.now();
for (const [a, b] of pairs) {
  try {
    const r: any = await compareFiles(await input(a), await input(b));
    out[a + ' | ' + b] = {
      ...r.comparison,
      picture: r.outlines,
      map: r.map ? Buffer.from(r.map).toString('base64').slice(0, 200) + r.map.length : null,
    };
  } catch (e: any) {
    out[a + ' | ' + b] = { error: String(e?.stack ?? e) };
  }
}
console.log(Date.now() - t0, 'ms');
writeFileSync('/tmp/corpus/new.json', JSON.stringify(out));
process.exit(0);
