/**
 * A stand-in for a design program that saves into a share: `node demo/share-program.ts FOLDER [SAVES]`. Each save goes
 * to a temporary file that takes the place of the drawing, and the drawing of before is kept as a numbered backup.
 */
import { existsSync, mkdirSync, readdirSync, renameSync, writeFileSync, copyFileSync } from 'node:fs';
import { join } from 'node:path';

const NAME = 'pontoon-anchors';

/** The anchors of the pontoon as they stand after so many saves. */
export function anchors(saves: number): string {
  const chains = Array.from({ length: 4 }, (_, k) => {
    const x = 40 + 80 * k;
    const length = 60 + 5 * ((saves + k) % 4);
    return `<g id="anchor-${k + 1}"><line x1="${x}" y1="120" x2="${x - 20}" y2="${120 + length}"/><circle cx="${x - 20}" cy="${124 + length}" r="4"/></g>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 360 240" width="360mm" height="240mm" fill="none" stroke="#18202b">
<rect id="pontoon" x="20" y="80" width="320" height="40"/>
${chains.join('\n')}
<text x="24" y="226" fill="#18202b" stroke="none" font-size="10">Anchors, chains as of save ${saves}</text>
</svg>
`;
}

/** Saves once as the program does; gives the number of the save. */
export function saveInto(folder: string): number {
  mkdirSync(folder, { recursive: true });
  const drawing = join(folder, `${NAME}.svg`);
  const backups = readdirSync(folder).filter((name) => /^pontoon-anchors\.\d{4}\.svg$/.test(name)).length;
  const save = existsSync(drawing) ? backups + 2 : 1;
  if (existsSync(drawing)) copyFileSync(drawing, join(folder, `${NAME}.${String(backups + 1).padStart(4, '0')}.svg`));
  const temporary = join(folder, `.${NAME}.svg.tmp`);
  writeFileSync(temporary, anchors(save));
  renameSync(temporary, drawing);
  return save;
}

const [, script, folder, saves = '1'] = process.argv;
if (script?.endsWith('share-program.ts') && folder !== undefined)
  for (let left = Number(saves); left > 0; left--) console.log(`Saved for the ${saveInto(folder)}. time.`);
