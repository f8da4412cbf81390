/** A text as it is written: its lines. */
import { diff3Merge } from 'node-diff3';
import type { Limits } from '../../model/limits.ts';
import type { At, Fields, Gap, Source, Splice } from '../../model/source.ts';
import { ListedSource, nothing } from '../shared/listed-source.ts';
import { decodeText, encodingOf } from '../shared/plain-text.ts';
import { spliced } from '../shared/splices.ts';
import { readLines } from './read.ts';

/** Field of a line: its words, without the end of the line. */
const WORDS = 'text';
const FEED = 10;
const RETURN = 13;
const QUOTE = 34;
/** Of a line: its time grows with their square. */
const MOST_WORDS = 2000;

/** Throws ReadError for what is no text. */
export function sourceOfText(bytes: Uint8Array, limits: Limits): Source {
  // Refuses what cannot be read as lines.
  readLines(bytes, limits);
  return new TextSource(bytes);
}

export class TextSource extends ListedSource {
  readonly format = 'text';
  private readonly quotes: boolean;
  private readonly encoding: string;
  private readonly lineEnd: string;

  /** `quotes`: lines go on within quotation marks. */
  constructor(original: Uint8Array, quotes = false) {
    const encoding = encodingOf(original);
    super(encoding === 'utf-8' ? original : new TextEncoder().encode(decodeText(original)), 'text');
    this.encoding = encoding;
    this.quotes = quotes;
    this.cut();
    const feed = this.bytes.indexOf(FEED);
    this.lineEnd = feed > 0 && this.bytes[feed - 1] === RETURN ? '\r\n' : '\n';
  }

  /** Lines with what ends them: a feed, a return, or both. */
  private cut(): void {
    const { bytes } = this;
    let start = 0;
    let isQuoted = false;
    for (let at = 0; at < bytes.length; at++) {
      if (this.quotes && bytes[at] === QUOTE) isQuoted = !isQuoted;
      const isEnd = !isQuoted && (bytes[at] === FEED || (bytes[at] === RETURN && bytes[at + 1] !== FEED));
      if (!isEnd && at < bytes.length - 1) continue;
      this.add('line', start, at + 1);
      start = at + 1;
    }
  }

  private words(node: number): string {
    const { start, end } = this.at(node);
    return new TextDecoder('utf-8', { ignoreBOM: true })
      .decode(this.bytes.subarray(start, end))
      .replace(/[\r\n]+$/, '');
  }

  fields(node: number): Fields {
    return new Map(node === 0 ? [] : [[WORDS, this.words(node)]]);
  }

  changed(node: number, _from: At, to: At): Splice[] {
    return this.worded(node, textSource(to.source).words(to.node));
  }

  worded(node: number, value: string): Splice[] {
    const { start } = this.at(node);
    const end = start + new TextEncoder().encode(this.words(node)).length;
    return [{ start, end, bytes: new TextEncoder().encode(value) }];
  }

  /** Lines that are put in end as those of this file do. */
  copied({ source, node }: At): { head: Uint8Array; tail: Uint8Array } {
    const line = `${textSource(source).words(node)}${this.lineEnd}`;
    return { head: new TextEncoder().encode(line), tail: nothing };
  }

  override gap(_parent: number, behind: number): Gap {
    const at = behind < 0 ? 0 : this.at(behind).end;
    const ends = at === 0 || this.bytes[at - 1] === FEED || this.bytes[at - 1] === RETURN;
    const open = ends ? nothing : new TextEncoder().encode(this.lineEnd);
    return { at, end: at, open, close: nothing };
  }

  /** Word by word, where both sides changed a line. */
  merged(_field: string, base: string, ours: string, theirs: string): string | undefined {
    const sides = [ours, base, theirs].map(wordsOf) as [string[], string[], string[]];
    if (sides.some((side) => side.length > MOST_WORDS)) return undefined;
    const regions = diff3Merge(...sides, { excludeFalseConflicts: true });
    const words: string[] = [];
    for (const region of regions) {
      if (!region.ok) return undefined;
      words.push(...region.ok);
    }
    return words.join('');
  }

  written(splices: readonly Splice[]): Uint8Array {
    const bytes = spliced(this.bytes, splices);
    if (this.encoding === 'utf-8') return bytes;
    const text = `\ufeff${new TextDecoder().decode(bytes)}`;
    const out = new Uint8Array(text.length * 2);
    const view = new DataView(out.buffer);
    for (let k = 0; k < text.length; k++) view.setUint16(2 * k, text.charCodeAt(k), this.encoding === 'utf-16le');
    return out;
  }
}

/** Pieces of one format are not written into files of another. */
function textSource(source: Source): TextSource {
  if (source instanceof TextSource) return source;
  throw new Error(`a piece of ${source.format} cannot be written into a text`);
}

const wordsOf = (line: string): string[] => line.match(/\s+|[\p{L}\p{N}_]+|[^\s\p{L}\p{N}_]/gu) ?? [];
