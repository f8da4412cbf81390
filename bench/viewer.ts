/**
 * A large drawing in the browser: frames while it is dragged and zoomed, against all of it drawn plainly; and a
 * comparison that is known already.
 */
import { chromium, type Page } from '@playwright/test';
import { DxfWriter, type Point } from '@ovrel/core';
import { signIn } from '../e2e/support.ts';
import { randomFrom } from './accuracy/scripts.ts';
import { line, median, ms } from './measure.ts';
import type { Target } from './target.ts';

/** Survey-like runs of lines all over a site. */
export function manySegments(count: number, edited = false): string {
  const random = randomFrom(3);
  const d = new DxfWriter({ units: 6 }).layer('contours', { colour: '#5B6B2E' }).layer('kerbs', { colour: '#1F4E79' });
  for (let left = count, n = 0; left > 0; left -= 50, n++) {
    let x = random(1_000_000) / 100;
    let y = random(1_000_000) / 100;
    const points: Point[] = [];
    for (let k = 0; k <= 50; k++) points.push([(x += (random(1000) - 480) / 60), (y += (random(1000) - 500) / 60)]);
    if (!(edited && n % 100 === 5)) d.polyline(points, false, { layer: n % 4 ? 'contours' : 'kerbs' });
  }
  return d.finish();
}

/** Milliseconds between frames while something is done. */
async function framesDuring(page: Page, work: () => Promise<void>): Promise<number[]> {
  await page.evaluate(() => {
    const w = window as unknown as { frames: number[]; counting: boolean };
    w.frames = [];
    w.counting = true;
    let last = performance.now();
    const tick = (): void => {
      const now = performance.now();
      w.frames.push(now - last);
      last = now;
      if (w.counting) requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
  });
  await work();
  return page.evaluate(() => {
    const w = window as unknown as { frames: number[]; counting: boolean };
    w.counting = false;
    return w.frames.slice(1);
  });
}

const share = (values: readonly number[], q: number): number =>
  [...values].sort((a, b) => a - b)[Math.floor((values.length - 1) * q)] ?? 0;

export async function benchViewer(target: Target, segments = 1_000_000): Promise<void> {
  const { id } = (await target.json('/projects', 'POST', { name: `Large ${Date.now()}` })) as { id: string };
  const form = (text: string): FormData => {
    const f = new FormData();
    f.append('note', '');
    f.append('file', new Blob([text]), 'site.dxf');
    return f;
  };
  const text = manySegments(segments);
  const made = (await target.send(`/projects/${id}/files`, form(text))) as {
    file: { id: string; newest: { id: string } };
  };
  const next = (await target.send(`/files/${made.file.id}/versions`, form(manySegments(segments, true)))) as {
    version: { id: string };
  };
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-background-networking'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: target.address });
    page.setDefaultTimeout(280_000);
    await signIn(page, 'tobias');
    const start = performance.now();
    await page.goto(`/files/${made.file.id}`);
    await page.waitForSelector('canvas[data-ready=true]');
    line(
      `opening a DXF drawing of ${segments.toLocaleString('en')} segments, ${Math.round(text.length / 1e6)} MB, for the first time`,
      ms(performance.now() - start),
      'state it; the server reads it meanwhile',
    );
    await page.waitForTimeout(8000);
    const box = (await page.locator('canvas').boundingBox()) ?? { x: 0, y: 0, width: 1, height: 1 };
    const cx = box.x + box.width / 2;
    const cy = box.y + box.height / 2;
    const drag = await framesDuring(page, async () => {
      await page.mouse.move(cx, cy);
      await page.mouse.down();
      for (let k = 0; k < 40; k++) await page.mouse.move(cx + 4 * k, cy + 2 * k);
      await page.mouse.up();
    });
    const zoom = await framesDuring(page, async () => {
      for (let k = 0; k < 25; k++) await page.mouse.wheel(0, -120);
    });
    line(
      'frames while it is dragged, software rendering: median',
      ms(median(drag)),
      `goal < 150 ms; 95 % under ${ms(share(drag, 0.95))}`,
    );
    line('frames while it is zoomed into: median', ms(median(zoom)), `95 % under ${ms(share(zoom, 0.95))}`);
    // All of it, plainly: as many lines in one call, in a canvas of the same size.
    const plain = await page.evaluate(
      ({ count, width, height }) => {
        const canvas = document.createElement('canvas');
        [canvas.width, canvas.height] = [width, height];
        const gl = canvas.getContext('webgl2', { antialias: false });
        if (!gl) return NaN;
        const shader = (type: number, source: string): WebGLShader => {
          const made = gl.createShader(type) as WebGLShader;
          gl.shaderSource(made, source);
          gl.compileShader(made);
          return made;
        };
        const program = gl.createProgram();
        gl.attachShader(
          program,
          shader(gl.VERTEX_SHADER, '#version 300 es\nin vec2 at;void main(){gl_Position=vec4(at,0.0,1.0);}'),
        );
        gl.attachShader(
          program,
          shader(gl.FRAGMENT_SHADER, '#version 300 es\nprecision highp float;out vec4 c;void main(){c=vec4(1.0);}'),
        );
        gl.linkProgram(program);
        gl.useProgram(program);
        const ends = new Float32Array(count * 4);
        for (let i = 0; i < count; i++) {
          const x = Math.sin(i * 12.9898);
          const y = Math.sin(i * 78.233);
          ends.set([x, y, x + 0.0016 * Math.sin(i), y + 0.0016 * Math.cos(i)], 4 * i);
        }
        gl.bindBuffer(gl.ARRAY_BUFFER, gl.createBuffer());
        gl.bufferData(gl.ARRAY_BUFFER, ends, gl.STATIC_DRAW);
        gl.enableVertexAttribArray(0);
        gl.vertexAttribPointer(0, 2, gl.FLOAT, false, 0, 0);
        const times: number[] = [];
        for (let k = 0; k < 3; k++) {
          const start = performance.now();
          gl.drawArrays(gl.LINES, 0, 2 * count);
          gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
          times.push(performance.now() - start);
        }
        return Math.min(...times);
      },
      { count: segments, width: Math.round(box.width), height: Math.round(box.height) },
    );
    line(
      'a moving frame ÷ all of it drawn plainly in one call',
      (median(drag) / plain).toFixed(2),
      `${ms(plain)} plainly, fastest of three`,
    );
  } finally {
    await browser.close();
  }
  const pair = `/comparisons?a=${made.file.newest.id}&b=${next.version.id}`;
  await target.json(pair);
  const times: number[] = [];
  for (let k = 0; k < 7; k++) {
    const start = performance.now();
    await target.drain(pair);
    times.push(performance.now() - start);
  }
  line('a comparison of two such drawings that is known already, from the server', ms(median(times)), 'goal < 100 ms');
}
