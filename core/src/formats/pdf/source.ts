/** A document as it is written: its pages, each as a whole. */
import { hashText } from '../../geometry/hash.ts';
import type { Design } from '../../model/design.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import { printedPages } from '../../model/printed.ts';
import type { At, Fields, Source, Splice } from '../../model/source.ts';
import { ListedSource, nothing } from '../shared/listed-source.ts';
import { spliced } from '../shared/splices.ts';
import { heapsOf, OpenPdf, visiting } from './engine.ts';
import { readPdf } from './read.ts';

/** Bytes of a whole number as the engine has it. */
const NUMBER = 4;

/** Throws ReadError for what is no document. */
export const sourceOfPdf = (bytes: Uint8Array, limits: Limits): Source =>
  new PdfSource(
    bytes,
    visiting(() => readPdf(bytes, limits)),
  );

/**
 * What can be changed is a list of pages, a line each, which names the file that a page is of; the document is made
 * anew after that list.
 */
class PdfSource extends ListedSource {
  readonly format = 'pdf';
  private readonly document: Uint8Array;
  private readonly prints: readonly string[];
  /** Documents by their place in this list; this one first. */
  private readonly sources: PdfSource[] = [this];

  constructor(document: Uint8Array, design: Design) {
    const prints = printedPages(design).map(hashText);
    const lines = prints.map((print, page) => lineOf(0, page, print));
    super(new TextEncoder().encode(lines.join('')), 'document');
    this.document = document;
    this.prints = prints;
    let start = 0;
    for (const line of lines) {
      this.add('page', start, start + line.length);
      start += line.length;
    }
  }

  fields(node: number): Fields {
    return new Map(node === 0 ? [] : [['page', this.prints[node - 1] as string]]);
  }

  changed(node: number, _from: At, to: At): Splice[] {
    const { start, end } = this.at(node);
    return node === 0 ? [] : [{ start, end, bytes: this.copied(to).head }];
  }

  copied({ source, node }: At): { readonly head: Uint8Array; readonly tail: Uint8Array } {
    const other = pdfSource(source);
    if (!this.sources.includes(other)) this.sources.push(other);
    const line = lineOf(this.sources.indexOf(other), node - 1, other.prints[node - 1] as string);
    return { head: new TextEncoder().encode(line), tail: nothing };
  }

  written(splices: readonly Splice[]): Uint8Array {
    const lines = new TextDecoder().decode(spliced(this.bytes, splices)).split('\n').slice(0, -1);
    if (lines.length === 0) throw new ReadError('No page would be left, so nothing was changed.');
    const wanted = lines.map((line) => line.split(' ').slice(0, 2).map(Number) as [source: number, page: number]);
    return visiting(() => this.assembled(wanted));
  }

  private assembled(wanted: readonly (readonly [source: number, page: number])[]): Uint8Array {
    const open = this.sources.map((source) => new OpenPdf(source.document));
    try {
      const [own, ...others] = open as [OpenPdf, ...OpenPdf[]];
      // Pages of others come to the end, those that nobody wants go, and all that are left are put in order.
      const order: number[] = [];
      let count = this.prints.length;
      for (const [source, page] of wanted) {
        if (source === 0) order.push(page);
        else {
          imported(own, others[source - 1] as OpenPdf, page, count);
          order.push(count++);
        }
      }
      const isKept = new Set(order);
      const left = Array.from({ length: count }, (_, k) => k).filter((k) => isKept.has(k));
      for (let k = count - 1; k >= 0; k--) if (!isKept.has(k)) own.engine.FPDFPage_Delete(own.handle, k);
      putInOrder(own, left, order);
      const out = own.saved();
      if (!out) throw new ReadError('The document could not be written with these pages, so nothing was changed.');
      return out;
    } finally {
      for (const pdf of open) pdf.close();
    }
  }
}

function imported(into: OpenPdf, from: OpenPdf, page: number, at: number): void {
  const isThere = into.withBytes(NUMBER, (place) => {
    heapsOf(into.engine).HEAP32[place >> 2] = page;
    return into.engine.FPDF_ImportPagesByIndex(into.handle, from.handle, place, 1, at);
  });
  if (!isThere) throw new ReadError(`Page ${page + 1} could not be taken over, so nothing was changed.`);
}

/** `left`: the pages as they stand; `order`: as they should. Pages that stay among others are not touched. */
function putInOrder(pdf: OpenPdf, left: readonly number[], order: readonly number[]): void {
  const now = [...left];
  order.forEach((page, at) => {
    const from = now.indexOf(page, at);
    if (from === at) return;
    pdf.withBytes(NUMBER, (place) => {
      heapsOf(pdf.engine).HEAP32[place >> 2] = from;
      pdf.engine.FPDF_MovePages(pdf.handle, place, 1, at);
    });
    now.splice(from, 1);
    now.splice(at, 0, page);
  });
}

/** What is printed stands in it, too, so that only lines of equal pages are equal. */
const lineOf = (source: number, page: number, print: string): string => `${source} ${page} ${print}\n`;

/** Pieces of one format are not written into files of another. */
function pdfSource(source: Source): PdfSource {
  if (source instanceof PdfSource) return source;
  throw new Error(`a page of ${source.format} cannot be written into a document`);
}
