/** The groups of an ASCII DXF drawing, written as binary DXF. */
const isText = (c: number): boolean =>
  c < 10 ||
  (c >= 100 && c < 110) ||
  (c >= 300 && c < 370) ||
  (c >= 390 && c < 400) ||
  (c >= 410 && c < 420) ||
  (c >= 430 && c < 440) ||
  (c >= 470 && c < 482) ||
  (c >= 999 && c < 1010);
const isReal = (c: number): boolean =>
  c < 60 || (c >= 110 && c < 150) || (c >= 210 && c < 240) || (c >= 460 && c < 470) || (c >= 1010 && c < 1060);
const isShort = (c: number): boolean =>
  (c >= 60 && c < 80) ||
  (c >= 170 && c < 180) ||
  (c >= 270 && c < 290) ||
  (c >= 370 && c < 390) ||
  (c >= 400 && c < 410) ||
  (c >= 1060 && c < 1071);

export function binaryDxf(source: string): Uint8Array {
  const out: Buffer[] = [Buffer.from('AutoCAD Binary DXF\r\n\x1a\0', 'latin1')];
  const lines = source.split('\n');
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const code = Number(lines[i]);
    const value = lines[i + 1] as string;
    out.push(Buffer.from(Int16Array.of(code).buffer));
    if (isText(code)) out.push(Buffer.from(`${value}\0`, 'latin1'));
    else if (isReal(code)) out.push(Buffer.from(Float64Array.of(Number(value)).buffer));
    else if (isShort(code)) out.push(Buffer.from(Int16Array.of(Number(value)).buffer));
    else if (code >= 290 && code < 300) out.push(Buffer.of(Number(value)));
    else out.push(Buffer.from(Int32Array.of(Number(value)).buffer));
  }
  return Uint8Array.from(Buffer.concat(out));
}
