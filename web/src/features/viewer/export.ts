/** What is seen, as a picture. */

/** A copy of the canvas on white: the viewer draws on nothing where there is no paper. */
function onWhite(canvas: HTMLCanvasElement): HTMLCanvasElement {
  const copy = document.createElement('canvas');
  copy.width = canvas.width;
  copy.height = canvas.height;
  const c = copy.getContext('2d');
  if (c) {
    c.fillStyle = '#ffffff';
    c.fillRect(0, 0, copy.width, copy.height);
    c.drawImage(canvas, 0, 0);
  }
  return copy;
}

function saveAs(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

export function savePicture(canvas: HTMLCanvasElement, name: string): void {
  onWhite(canvas).toBlob((blob) => blob && saveAs(blob, `${name}.png`), 'image/png');
}

/** A page as wide as an A4 sheet is long, with the picture filling it. */
export async function savePdf(canvas: HTMLCanvasElement, name: string): Promise<void> {
  const { PDFDocument } = await import('pdf-lib');
  const document = await PDFDocument.create();
  const width = 842;
  document.setTitle(name);
  const picture = await document.embedPng(onWhite(canvas).toDataURL('image/png'));
  const height = (width * picture.height) / picture.width;
  document.addPage([width, height]).drawImage(picture, { x: 0, y: 0, width, height });
  saveAs(new Blob([Uint8Array.from(await document.save())], { type: 'application/pdf' }), `${name}.pdf`);
}

/** Prints what is seen, alone on a sheet. */
export function printPicture(canvas: HTMLCanvasElement, name: string): void {
  const frame = document.createElement('iframe');
  frame.style.cssText = 'position:fixed;width:0;height:0;border:0';
  document.body.append(frame);
  const inner = frame.contentDocument;
  const view = frame.contentWindow;
  if (!inner || !view) return;
  inner.title = name;
  const style = inner.createElement('style');
  const image = inner.createElement('img');
  style.textContent = `@page { size: ${canvas.width > canvas.height ? 'landscape' : 'portrait'}; margin: 10mm; } img { max-width: 100%; max-height: 100vh; }`;
  image.onload = () => {
    view.focus();
    view.print();
    setTimeout(() => frame.remove(), 60_000);
  };
  image.src = onWhite(canvas).toDataURL('image/png');
  inner.head.append(style);
  inner.body.append(image);
}
