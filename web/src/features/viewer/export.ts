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

export function savePicture(canvas: HTMLCanvasElement, name: string): void {
  onWhite(canvas).toBlob((blob) => {
    if (!blob) return;
    const link = document.createElement('a');
    link.href = URL.createObjectURL(blob);
    link.download = `${name}.png`;
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
  }, 'image/png');
}

/** Prints what is seen, alone on a sheet; the browser's dialog also makes a PDF of it. */
export function printPicture(canvas: HTMLCanvasElement, name: string): void {
  const frame = document.createElement('iframe');
  frame.style.cssText = 'position:fixed;width:0;height:0;border:0';
  document.body.append(frame);
  const inner = frame.contentDocument, view = frame.contentWindow;
  if (!inner || !view) return;
  inner.title = name;
  const style = inner.createElement('style'), image = inner.createElement('img');
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
