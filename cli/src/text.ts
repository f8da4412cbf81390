/** Results as text for people. */
import {
  pathOfLayer,
  plural,
  type Comparison,
  type DesignJson,
  type PictureFacts,
  type PictureLayer,
} from '@ovrel/core';

const marks = { added: '+', removed: '−', changed: '~', moved: '→' } as const;
const LINES = 200;

export function comparisonText(c: Comparison): string {
  const lines = [`${c.a.name} → ${c.b.name}: ${c.summary}`];
  lines.push(
    `compared as ${c.level}; added ${c.counts.added}, removed ${c.counts.removed}, changed ${c.counts.changed}, moved ${c.counts.moved}, unchanged ${c.counts.unchanged}`,
  );
  for (const note of c.notes) lines.push(`note: ${note}`);
  if (c.causes.length)
    lines.push(
      'causes:',
      ...c.causes.map((k) => `  ${k.sentence}${k.changes.length ? `  [${k.changes.length}]` : ''}`),
      'changes:',
    );
  for (const change of c.changes.slice(0, LINES)) {
    const where = change.part.category ? `  [${change.part.category}]` : '';
    lines.push(
      `${marks[change.kind]} ${change.part.kind} ${change.part.name === change.part.kind ? (change.part.key ?? '') : change.part.name}${where}`,
    );
    for (const w of change.what) lines.push(`    ${w.property ?? w.aspect}: ${w.from} → ${w.to}`);
  }
  if (c.changes.length > LINES)
    lines.push(`… and ${plural(c.changes.length - LINES, 'more change')}; --json lists all.`);
  return lines.join('\n');
}

export function designText(d: DesignJson): string {
  const list = (tally: Record<string, number>): string =>
    Object.entries(tally)
      .sort((p, q) => q[1] - p[1])
      .map(([name, n]) => `${name} ${n}`)
      .join(', ');
  const page = d.pages[0];
  return [
    `${d.file}: ${d.format}, ${plural(d.bytes, 'byte')}${d.origin.program ? `, written by ${d.origin.program}` : ''}`,
    ...(page ? [`page: ${page.box.join(' ')}${d.origin.units ? ` (${d.origin.units})` : ''}`] : []),
    `${plural(d.counts.parts, 'part')}: ${list(d.counts.byKind)}`,
    `layers: ${list(d.counts.byCategory)}`,
    ...(d.definitions.length ? [`definitions: ${d.definitions.map((x) => x.name || x.kind).join(', ')}`] : []),
    ...d.notes.map((n) => `note: ${n}`),
  ].join('\n');
}

export function pictureText(name: string, bytes: number, f: PictureFacts & { readonly format: string }): string {
  return [
    `${name}: ${f.format}, ${plural(bytes, 'byte')}`,
    `${f.width} × ${f.height} px, ${f.depth} bits a channel, ${f.colours}${f.transparent ? ', with transparency' : ''}`,
    ...(f.density ? [`${f.density} pixels an inch`] : []),
    `colour profile: ${f.profile ?? 'none'}`,
    ...(f.layered
      ? [
          'layers, from the top:',
          ...f.layered.layers.map((l, k) => layerText(l, pathOfLayer(f.layered?.layers ?? [], k).length)),
        ]
      : []),
    ...f.notes.map((n) => `note: ${n}`),
  ].join('\n');
}

function layerText({ name, kind, hidden, opacity, blend }: PictureLayer, depth: number): string {
  const said = [name];
  if (kind === 'group') said.push(kind);
  if (hidden) said.push('hidden');
  if (opacity < 0.998) said.push(`${Math.round(opacity * 100)} %`);
  if (blend !== 'normal') said.push(blend);
  return `${'  '.repeat(depth)}${said.join(', ')}`;
}
