/**
 * Internal general entities (XML 1.0 §4.2). Expanded one level and within a budget: entities that contain
 * entities are how small files are made to grow without bound, so they are refused.
 */
import { ReadError } from '../../model/problem.ts';

const builtin: Readonly<Record<string, string>> = { lt: '<', gt: '>', amp: '&', quot: '"', apos: "'" };
const BUDGET = 8 * 1024 * 1024;

export class Entities {
  private readonly values = new Map<string, string>();
  private spent = 0;
  /** Names of external entities, which are never fetched. */
  readonly external: string[] = [];

  /** Reads the declarations of an internal subset that begins at byte `offset`. */
  declare(subset: string, offset: number): void {
    const declaration = /<!ENTITY\s+(%\s+)?([\w.:-]+)\s+(?:"([^"]*)"|'([^']*)'|(SYSTEM|PUBLIC)\b[^>]*)\s*>?/g;
    for (let hit = declaration.exec(subset); hit; hit = declaration.exec(subset)) {
      const [, parameter, name = '', double, single, external] = hit;
      if (external) this.external.push(name);
      else if (!parameter && !this.values.has(name)) this.values.set(name, double ?? single ?? '');
    }
    for (const [name, value] of this.values) {
      const inner = [...value.matchAll(/&([\w.:-]+);/g)].find((m) => this.values.has(m[1] ?? ''));
      if (inner) {
        throw new ReadError(
          `The file defines the entity “${name}” by way of another entity (“${inner[1]}”). Such chains can be made to grow without bound, so Ovrel does not expand them.`,
          offset + Math.max(0, subset.indexOf(name)),
        );
      }
    }
  }

  /** Text with character references and entities replaced. Unknown names stay as written. */
  expand(text: string): string {
    if (!text.includes('&')) return text;
    return text.replace(/&(#x[0-9a-f]{1,6}|#\d{1,7}|[\w.:-]+);/gi, (whole, name: string) => {
      if (name.startsWith('#')) return codePoint(name) ?? whole;
      const known = builtin[name];
      if (known !== undefined) return known;
      const value = this.values.get(name);
      if (value === undefined) return this.external.includes(name) ? '' : whole;
      this.spent += value.length;
      if (this.spent > BUDGET) {
        throw new ReadError(
          `The entities of the file expand to more than ${BUDGET / 1024 / 1024} MB of text. Ovrel stopped reading it.`,
        );
      }
      return value.replace(/&(lt|gt|amp|quot|apos);/g, (_, n: string) => builtin[n] ?? '');
    });
  }
}

function codePoint(name: string): string | undefined {
  const n = /^#x/i.test(name) ? parseInt(name.slice(2), 16) : parseInt(name.slice(1), 10);
  return n > 0 && n <= 0x10ffff && !(n >= 0xd800 && n <= 0xdfff) ? String.fromCodePoint(n) : undefined;
}
