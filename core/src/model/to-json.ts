import type { DesignJson } from '../contract/design.ts';
import type { Design } from './design.ts';

/** The design as `ovrel read --json` prints it. */
export function designJson(design: Design, engine: string, file: string, bytes: number): DesignJson {
  const tally = (names: readonly string[]): Record<string, number> => {
    const out: Record<string, number> = {};
    for (const name of names) out[name] = (out[name] ?? 0) + 1;
    return out;
  };
  return {
    engine,
    file,
    bytes,
    format: design.format,
    origin: { ...design.origin },
    pages: design.pages.map((p) => ({ ...p, box: [...p.box] })),
    counts: {
      parts: design.parts.length,
      definitions: design.definitions.length,
      byKind: tally(design.parts.map((p) => p.kind)),
      byCategory: tally(design.parts.map((p) => p.category || '(none)')),
    },
    definitions: design.definitions.map((d) => ({ ...d })),
    parts: design.parts.map((p) => ({
      key: p.key ?? null,
      kind: p.kind,
      name: p.name,
      category: p.category,
      page: design.pages[p.page]?.name ?? '',
      parents: [...p.parents],
      box: p.box ? [...p.box] : null,
      props: { ...p.props },
      span: [...p.span],
      ...(p.lettering ? { text: p.lettering.runs.map((r) => r.text).join('\n') } : {}),
      ...(p.definition === undefined ? {} : { definition: design.definitions[p.definition]?.name ?? '' }),
    })),
    notes: [...design.notes],
  };
}
