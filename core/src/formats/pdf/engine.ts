/** The drawing engine for PDF, which has to be loaded before it can be used. */
import type { WrappedPdfiumModule } from '@embedpdf/pdfium';
import { renewEngine } from '../../model/engines.ts';
import { Exhausted, ReadError } from '../../model/problem.ts';

export type Engine = WrappedPdfiumModule;

/** The engine's memory. It is exchanged when it grows, so it must be asked for anew after every call. */
interface Heaps {
  readonly HEAPU8: Uint8Array;
  readonly HEAP32: Int32Array;
  readonly HEAPU32: Uint32Array;
  readonly HEAPF32: Float32Array;
}

export const heapsOf = (engine: Engine): Heaps => engine.pdfium as unknown as Heaps;

/** Numbers that the engine wrote, by their offset in bytes. */
export class Cells {
  private readonly engine: Engine;
  private readonly at: number;

  constructor(engine: Engine, at: number) {
    this.engine = engine;
    this.at = at;
  }

  float(offset: number): number {
    return heapsOf(this.engine).HEAPF32[(this.at + offset) >> 2] as number;
  }

  int(offset: number): number {
    return heapsOf(this.engine).HEAP32[(this.at + offset) >> 2] as number;
  }

  unsigned(offset: number): number {
    return heapsOf(this.engine).HEAPU32[(this.at + offset) >> 2] as number;
  }
}

let loaded: Engine | undefined;

export const setPdfEngine = (engine: Engine | undefined): void => {
  loaded = engine;
};

function pdfEngine(): Engine {
  if (!loaded) throw new ReadError('PDF documents are looked into on the server only.', undefined, 'unsupported');
  return loaded;
}

/** An engine that has grown beyond this many bytes is thrown away after its visit: its memory never shrinks. */
const MOST_MEMORY = 384 * 1024 ** 2;

const discardEngine = (): void => {
  loaded = undefined;
  renewEngine('pdf');
};

/** The engine stopped in the middle of something: out of memory, out of stack, or where it should never be. */
const isTrap = (error: unknown): boolean =>
  error instanceof Error && (error.name === 'RuntimeError' || error instanceof RangeError);

/** What a failed visit is to be taken for. After a trap nothing that the engine holds can be trusted any more. */
function judged(error: unknown): unknown {
  if (!isTrap(error)) return error;
  discardEngine();
  return new Exhausted();
}

function leave(): void {
  if (loaded && heapsOf(loaded).HEAPU8.length > MOST_MEMORY) discardEngine();
}

/** Work with the engine on bytes that nobody vouches for. Throws Exhausted where that took more than there is. */
export function visiting<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    throw judged(error);
  } finally {
    leave();
  }
}

/** The same step by step. */
export function* visitingSteps<Step, Result>(
  work: Generator<Step, Result, undefined>,
): Generator<Step, Result, undefined> {
  try {
    return yield* work;
  } catch (error) {
    throw judged(error);
  } finally {
    leave();
  }
}

/** Error codes of FPDF_GetLastError. */
const PASSWORD = 4;
const SECURITY = 5;

const LOCKED =
  'The document is locked with a password, so Ovrel keeps it but does not look into it until somebody gives the password.';

function unopened(error: number): ReadError {
  if (error === PASSWORD) return new ReadError(LOCKED, undefined, 'locked');
  if (error === SECURITY)
    return new ReadError('The document is locked in a way that Ovrel does not know.', undefined, 'unsupported');
  return new ReadError('The document is damaged: its list of pages cannot be found.');
}

/** A document in the engine's memory, which has to be closed. */
export class OpenPdf {
  readonly engine: Engine;
  readonly handle: number;
  private readonly data: number;

  /** Throws ReadError with a sentence. */
  constructor(bytes: Uint8Array, password = '') {
    this.engine = pdfEngine();
    const { pdfium } = this.engine;
    this.data = pdfium.wasmExports.malloc(bytes.length);
    if (!this.data) {
      discardEngine();
      throw new Exhausted();
    }
    heapsOf(this.engine).HEAPU8.set(bytes, this.data);
    this.handle = this.engine.FPDF_LoadMemDocument(this.data, bytes.length, password);
    if (this.handle) return;
    const error = this.engine.FPDF_GetLastError();
    pdfium.wasmExports.free(this.data);
    throw unopened(error);
  }

  /** Undefined where the password is not the right one. */
  static withPassword(bytes: Uint8Array, password: string): OpenPdf | undefined {
    try {
      return new OpenPdf(bytes, password);
    } catch (error) {
      if (error instanceof ReadError && error.code === 'locked') return undefined;
      throw error;
    }
  }

  /** A pointer to some bytes for the engine to write to, while `work` runs. */
  withBytes<T>(length: number, work: (at: number, cells: Cells) => T): T {
    const { pdfium } = this.engine;
    const at = pdfium.wasmExports.malloc(length);
    heapsOf(this.engine).HEAPU8.fill(0, at, at + length);
    try {
      return work(at, new Cells(this.engine, at));
    } finally {
      pdfium.wasmExports.free(at);
    }
  }

  /** Text of a call that takes a buffer and its length in bytes, and gives the length that it needs. */
  text(call: (at: number, length: number) => number, encoding: 'utf-16le' | 'utf-8' = 'utf-16le'): string {
    const length = call(0, 0);
    if (length <= 0 || length > 1_000_000) return '';
    return this.withBytes(length, (at) => {
      call(at, length);
      return new TextDecoder(encoding)
        .decode(heapsOf(this.engine).HEAPU8.subarray(at, at + length))
        .replace(/\0+$/, '');
    });
  }

  /** The document as it stands now, with its objects not packed. Undefined where the engine cannot write it. */
  saved(): Uint8Array | undefined {
    const { engine } = this;
    const writer = engine.PDFiumExt_OpenFileWriter();
    try {
      if (!engine.PDFiumExt_SaveAsCopy(this.handle, writer)) return undefined;
      const size = engine.PDFiumExt_GetFileWriterSize(writer);
      return this.withBytes(size, (at) => {
        engine.PDFiumExt_GetFileWriterData(writer, at, size);
        return heapsOf(engine).HEAPU8.slice(at, at + size);
      });
    } finally {
      engine.PDFiumExt_CloseFileWriter(writer);
    }
  }

  close(): void {
    this.engine.FPDF_CloseDocument(this.handle);
    this.engine.pdfium.wasmExports.free(this.data);
  }
}
