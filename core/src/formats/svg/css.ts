/**
 * Style sheets inside a drawing: which declarations apply to an element (CSS Cascade 4, Selectors 4; no scripts, no
 * imports).
 */
import * as csstree from 'css-tree';
import type { XmlElement } from '../xml/parse.ts';

export type Declarations = Readonly<Record<string, string>>;

interface Compound {
  readonly tag?: string;
  readonly id?: string;
  readonly classes: readonly string[];
  readonly attributes: readonly { name: string; value: string | undefined }[];
  /** How this compound hangs on the one before it. */
  readonly combinator: ' ' | '>';
}

interface Rule {
  readonly selector: readonly Compound[];
  readonly specificity: number;
  readonly order: number;
  readonly declarations: Declarations;
}

/** Parses `name: value; …`. Later declarations win; `!important` is dropped. */
export function parseDeclarations(text: string): Declarations {
  const out: Record<string, string> = {};
  // Data URIs hold semicolons, so split outside brackets and quotes only.
  for (const piece of text.match(/(?:[^;("']|\([^)]*\)|"[^"]*"|'[^']*')+/g) ?? []) {
    const colon = piece.indexOf(':');
    if (colon > 0)
      out[piece.slice(0, colon).trim().toLowerCase()] = piece
        .slice(colon + 1)
        .replace(/!\s*important\s*$/i, '')
        .trim();
  }
  return out;
}

/** Brackets within brackets that nobody writes, and that the parser would follow until its stack ends. */
const DEEPEST = 64;

function refuseDeep(text: string): void {
  let depth = 0;
  for (const sign of text) {
    if (sign === '{' || sign === '(' || sign === '[') depth++;
    if (sign === '}' || sign === ')' || sign === ']') depth--;
    if (depth > DEEPEST) throw new RangeError('a style sheet is nested too deeply');
  }
}

/** The rules of one drawing, indexed by what their last compound asks for. */
export class StyleSheet {
  private readonly byKey = new Map<string, Rule[]>();
  private count = 0;

  get empty(): boolean {
    return this.count === 0;
  }

  /** Adds the text of a `<style>` element. What cannot be parsed is left out and reported. */
  add(text: string, onNote: (sentence: string) => void): void {
    let tree: csstree.CssNode;
    try {
      refuseDeep(text);
      tree = csstree.parse(text.replace(/<!--|-->/g, ''), { parseValue: false, onParseError: () => undefined });
    } catch {
      onNote('A style sheet in the drawing could not be read, so its styles are not compared.');
      return;
    }
    let skipped = 0;
    csstree.walk(tree, {
      visit: 'Rule',
      enter: (rule) => {
        const declarations = parseDeclarations(csstree.generate(rule.block).replace(/^\{|\}$/g, ''));
        if (rule.prelude.type !== 'SelectorList') return;
        rule.prelude.children.forEach((selector) => {
          const compounds = selector.type === 'Selector' ? readSelector(selector) : undefined;
          if (compounds) this.keep(compounds, declarations);
          else skipped++;
        });
      },
    });
    if (skipped)
      onNote(
        `${skipped} style ${skipped === 1 ? 'rule uses a selector' : 'rules use selectors'} that Ovrel does not follow.`,
      );
  }

  /** Declarations for an element, the strongest last. */
  matching(element: XmlElement): Declarations[] {
    if (this.empty) return [];
    const { id, class: classNames } = element.attributes;
    const keys = [
      '*',
      element.name,
      ...(id ? [`#${id}`] : []),
      ...(classNames?.split(/\s+/).map((c) => `.${c}`) ?? []),
    ];
    const hits = keys.flatMap((key) => this.byKey.get(key) ?? []).filter((rule) => matches(rule.selector, element));
    return hits.sort((a, b) => a.specificity - b.specificity || a.order - b.order).map((rule) => rule.declarations);
  }

  private keep(selector: readonly Compound[], declarations: Declarations): void {
    const last = selector.at(-1);
    if (!last) return;
    const byClass = last.classes[0] ? `.${last.classes[0]}` : (last.tag ?? '*');
    const key = last.id ? `#${last.id}` : byClass;
    const specificity = selector.reduce(
      (sum, c) => sum + (c.id ? 10_000 : 0) + (c.classes.length + c.attributes.length) * 100 + (c.tag ? 1 : 0),
      0,
    );
    const rules = this.byKey.get(key) ?? [];
    rules.push({ selector, specificity, order: this.count++, declarations });
    this.byKey.set(key, rules);
  }
}

type MutableCompound = {
  tag?: string;
  id?: string;
  classes: string[];
  attributes: { name: string; value: string | undefined }[];
  combinator: ' ' | '>';
};

/** undefined where the selector uses anything but tags, classes, ids, attributes, descendants and children. */
function readSelector(selector: csstree.Selector): Compound[] | undefined {
  const out: Compound[] = [];
  const fresh = (combinator: ' ' | '>'): MutableCompound => ({ classes: [], attributes: [], combinator });
  let current = fresh(' ');
  let known = true;
  selector.children.forEach((node) => {
    if (node.type === 'TypeSelector') {
      if (node.name !== '*') current.tag = node.name.replace(/^.*\|/, '');
    } else if (node.type === 'ClassSelector') current.classes.push(node.name);
    else if (node.type === 'IdSelector') current.id = node.name;
    else if (node.type === 'AttributeSelector' && (node.matcher === null || node.matcher === '=')) {
      const value = node.value?.type === 'String' ? node.value.value : node.value?.name;
      current.attributes.push({ name: node.name.name, value });
    } else if (node.type === 'Combinator' && (node.name === ' ' || node.name === '>')) {
      out.push(current);
      current = fresh(node.name);
    } else known = false;
  });
  out.push(current);
  return known ? out : undefined;
}

function matches(selector: readonly Compound[], element: XmlElement): boolean {
  const step = (index: number, at: XmlElement | undefined): boolean => {
    const compound = selector[index];
    if (!compound) return true;
    if (!at || !matchesCompound(compound, at)) return false;
    if (index === 0) return true;
    if (compound.combinator === '>') return step(index - 1, at.parent);
    for (let up = at.parent; up; up = up.parent) if (step(index - 1, up)) return true;
    return false;
  };
  return step(selector.length - 1, element);
}

function matchesCompound(compound: Compound, element: XmlElement): boolean {
  const { attributes } = element;
  if (compound.tag && compound.tag !== element.name) return false;
  if (compound.id && compound.id !== attributes['id']) return false;
  if (compound.classes.length) {
    const own = attributes['class']?.split(/\s+/) ?? [];
    if (!compound.classes.every((c) => own.includes(c))) return false;
  }
  return compound.attributes.every(
    (a) => attributes[a.name] !== undefined && (a.value === undefined || attributes[a.name] === a.value),
  );
}
