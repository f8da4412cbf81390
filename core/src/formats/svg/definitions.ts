/** Shared things that parts refer to (symbols, gradients, patterns, clips …), known by content instead of by id. */
import { Hash } from '../../geometry/hash.ts';
import type { XmlElement } from '../xml/parse.ts';

/** References within references that are followed. */
const NESTING = 200;

/** What tells nothing of how an element looks by itself. */
const UNSEEN: ReadonlySet<string> = new Set(['id', 'class', 'style']);

export const referenceId = (text: string): string | undefined => /#([^)"'\s]+)/.exec(text)?.[1];

export const hrefOf = (e: XmlElement): string | undefined => e.attributes['href'] ?? e.attributes['xlink:href'];

export class DefinitionTable {
  private readonly byId: ReadonlyMap<string, XmlElement>;
  private readonly prints = new Map<XmlElement, string>();
  /** Elements that refer to themselves, by whatever way. */
  private readonly circular = new Set<XmlElement>();
  /** Gradients, patterns, clips and the like that something is drawn with. */
  readonly described = new Set<XmlElement>();

  /** What style sheets and its own style say of an element. */
  private readonly declared: (element: XmlElement) => Readonly<Record<string, string>>;

  constructor(
    byId: ReadonlyMap<string, XmlElement>,
    declared: (element: XmlElement) => Readonly<Record<string, string>> = () => ({}),
  ) {
    this.byId = byId;
    this.declared = declared;
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
  fingerprint(element: XmlElement): string {
    return this.printOf(element, []);
  }

  /** `trail`: what refers to one another on the way here. */
  private printOf(element: XmlElement, trail: readonly XmlElement[]): string {
    const known = this.prints.get(element);
    if (known !== undefined) return known;
    const way = [...trail, element];
    const followed = this.hashOf(element, (target) => this.referred(target, way));
    // What leads back to itself has no end to be followed to: it is known by what stands in it.
    const print = this.circular.has(element) ? this.localPrint(element) : followed;
    this.prints.set(element, print);
    return print;
  }

  /** What stands for a reference: what it refers to, unless that leads back. */
  private referred(target: XmlElement, way: readonly XmlElement[]): string {
    const back = way.indexOf(target);
    if (back >= 0) for (const element of way.slice(back)) this.circular.add(element);
    return back >= 0 || way.length >= NESTING ? this.localPrint(target) : this.printOf(target, way);
  }

  /** Without what is referred to. */
  private localPrint(element: XmlElement): string {
    return this.hashOf(element, (target) => target.name);
  }

  private hashOf(element: XmlElement, sayTarget: (target: XmlElement) => string): string {
    const hash = new Hash();
    this.feed(hash, element, sayTarget, true);
    return hash.digest();
  }

  private feed(hash: Hash, e: XmlElement, sayTarget: (target: XmlElement) => string, top: boolean): void {
    hash.text(e.name);
    // Whether by an attribute, a rule or a style of its own: what counts is what it looks like.
    const values: Record<string, string> = { ...e.attributes, ...this.declared(e) };
    const names = Object.keys(values)
      .filter((n) => (!UNSEEN.has(n) && !n.startsWith('xmlns') && !n.includes(':')) || n === 'xlink:href')
      .sort();
    for (const name of names) {
      // The place of the definition itself (a top-level transform aside) is part of its content.
      const value = values[name] as string;
      hash.text(name);
      // A colour begins with # too.
      if (name.endsWith('href') ? value.startsWith('#') : value.includes('url(')) {
        const id = referenceId(value);
        const target = id ? this.byId.get(id) : undefined;
        hash.text(target ? sayTarget(target) : 'missing');
      } else hash.text(value.trim().replace(/\s+/g, ' '));
    }
    for (const child of e.children) {
      if (typeof child === 'string') {
        if (child.trim()) hash.text(child.trim());
      } else this.feed(hash, child, sayTarget, false);
    }
    hash.int(top ? 1 : 2);
  }
}
