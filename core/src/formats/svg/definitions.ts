/** Shared things that parts refer to (symbols, gradients, patterns, clips …), known by content instead of by id. */
import { Hash } from '../../geometry/hash.ts';
import type { XmlElement } from '../xml/parse.ts';

const NESTING = 12;

export const referenceId = (text: string): string | undefined => /#([^)"'\s]+)/.exec(text)?.[1];

export const hrefOf = (e: XmlElement): string | undefined => e.attributes['href'] ?? e.attributes['xlink:href'];

export class DefinitionTable {
  private readonly byId: ReadonlyMap<string, XmlElement>;
  private readonly prints = new Map<XmlElement, string>();
  /** Gradients, patterns, clips and the like that something is drawn with. */
  readonly described = new Set<XmlElement>();

  constructor(byId: ReadonlyMap<string, XmlElement>) {
    this.byId = byId;
  }

  get(id: string): XmlElement | undefined {
    return this.byId.get(id);
  }

  /** "linearGradient 1f2e3d4c": the kind and a fingerprint of what `url(#id)` refers to. */
  describe(reference: string): string {
    const id = referenceId(reference);
    const target = id ? this.byId.get(id) : undefined;
    if (target) this.described.add(target);
    return target ? `${target.name} ${this.fingerprint(target).slice(0, 8)}` : 'missing reference';
  }

  /** Equal for elements with equal content whatever their ids; follows references inside. */
  fingerprint(element: XmlElement, depth = 0): string {
    const known = this.prints.get(element);
    if (known) return known;
    const hash = new Hash();
    if (depth < NESTING) this.feed(hash, element, depth, true);
    const print = hash.digest();
    // A print that was cut short by the nesting bound must not be reused.
    if (depth === 0) this.prints.set(element, print);
    return print;
  }

  private feed(hash: Hash, e: XmlElement, depth: number, top: boolean): void {
    hash.text(e.name);
    const names = Object.keys(e.attributes)
      .filter((n) => (n !== 'id' && !n.startsWith('xmlns') && !n.includes(':')) || n === 'xlink:href')
      .sort();
    for (const name of names) {
      // The place of the definition itself (a top-level transform aside) is part of its content.
      const value = e.attributes[name] as string;
      hash.text(name);
      // A colour begins with # too.
      if (name.endsWith('href') ? value.startsWith('#') : value.includes('url(')) {
        const id = referenceId(value);
        const target = id ? this.byId.get(id) : undefined;
        hash.text(target && depth + 1 < NESTING ? this.fingerprint(target, depth + 1) : 'missing');
      } else hash.text(value.trim().replace(/\s+/g, ' '));
    }
    for (const child of e.children) {
      if (typeof child === 'string') {
        if (child.trim()) hash.text(child.trim());
      } else this.feed(hash, child, depth, false);
    }
    hash.int(top ? 1 : 2);
  }
}
