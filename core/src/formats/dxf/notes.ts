/** What the reader met on its way, in sentences. */
import { plural } from '../../text/plural.ts';
import type { DxfDocument } from './document.ts';

type Matter = 'opaque' | 'cycle' | 'missing' | 'outside' | 'absurd';

const some = (names: Iterable<string>): string => {
  const all = [...names].filter(Boolean);
  const shown = all
    .slice(0, 4)
    .map((n) => n.slice(0, 60))
    .join(', ');
  return all.length > 4 ? `${shown} and ${all.length - 4} more` : shown;
};

export class ReaderNotes {
  private readonly met = new Map<Matter, { count: number; names: Set<string> }>();

  count(matter: Matter, name = ''): void {
    const entry = this.met.get(matter) ?? { count: 0, names: new Set<string>() };
    entry.count++;
    if (entry.names.size < 1000) entry.names.add(name);
    this.met.set(matter, entry);
  }

  sentences(doc: DxfDocument, parts: number): string[] {
    const { groups: g } = doc;
    const out: string[] = [];
    if (g.damage) {
      const more = g.damages > 1 ? ` and at ${plural(g.damages - 1, 'other place')}` : '';
      out.push(
        `The file is damaged at byte ${g.damage.offset.toLocaleString('en')}${more}: ${g.damage.sentence}. ${plural(parts, 'part')} could be read before and after it.`,
      );
    } else if (!endsWell(doc))
      out.push(
        `The file ends at byte ${g.bytes.length.toLocaleString('en')} without the mark that ends a DXF file, so it may have been cut off. ${plural(parts, 'part')} could be read.`,
      );
    const tell = (matter: Matter, sentence: (n: number, names: string) => string): void => {
      const entry = this.met.get(matter);
      if (entry) out.push(sentence(entry.count, some(entry.names)));
    };
    tell(
      'opaque',
      (n, names) =>
        `${plural(n, 'entity', 'entities')} of kinds that Ovrel keeps without drawing them: ${names}. Only whether ${n === 1 ? 'its' : 'their'} content changed is compared.`,
    );
    tell('cycle', (_, names) => `${names}: a block that contains itself. It is not drawn within itself.`);
    tell(
      'missing',
      (n, names) =>
        `${plural(n, 'placement')} of ${n === 1 ? 'a block' : 'blocks'} that the file does not hold: ${names}.`,
    );
    tell('outside', (_, names) => `The drawing shows other files, which Ovrel does not fetch: ${names}.`);
    tell(
      'absurd',
      (n) =>
        `${plural(n, 'entity has', 'entities have')} coordinates that are no numbers or absurdly large; kept, but not drawn.`,
    );
    if (g.misread)
      out.push(
        `${plural(g.misread, 'text')} not in the encoding that the file names (${g.encodingName}); read as western European instead.`,
      );
    return out;
  }
}

/** The last record is EOF. */
function endsWell({ groups: g }: DxfDocument): boolean {
  for (let i = g.count - 1; i >= 0 && i > g.count - 8; i--) if (g.codes[i] === 0) return g.word(i) === 'EOF';
  return false;
}
