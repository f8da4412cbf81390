'use client';

import { useEffect, useRef } from 'react';
import { sayDate, saySize } from '../words.ts';

interface Props {
  readonly caption: string;
  /** Moments, oldest first, each with bytes for either curve. */
  readonly days: readonly { readonly at: string; readonly dashed: number; readonly solid: number }[];
  /** What the curves are called. */
  readonly dashed: string;
  readonly solid: string;
}

/** Two curves of bytes over time. The words beneath its picture say the last of them to those who cannot see it. */
export function BytesOverTime({ caption, days, dashed, solid }: Props): React.ReactNode {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let gone = false;
    let destroy: (() => void) | undefined;
    // The chart library is loaded only here.
    void import('chart.js').then(
      ({ Chart, Filler, Legend, LinearScale, LineController, LineElement, PointElement, Tooltip, CategoryScale }) => {
        if (gone || !canvas.current) return;
        Chart.register(LineController, LineElement, PointElement, LinearScale, CategoryScale, Filler, Legend, Tooltip);
        const colour = (name: string): string =>
          getComputedStyle(document.documentElement).getPropertyValue(name).trim();
        const ink = colour('--ov-quiet');
        const plum = colour('--ov-plum');
        const hair = colour('--ov-hair');
        const font = { family: getComputedStyle(document.body).fontFamily, size: 12 };
        const chart = new Chart(canvas.current, {
          type: 'line',
          data: {
            labels: days.map((d) => sayDate(d.at)),
            datasets: [
              {
                label: dashed,
                data: days.map((d) => d.dashed),
                borderColor: ink,
                borderDash: [5, 4],
                borderWidth: 1.5,
                pointRadius: days.length > 60 ? 0 : 2,
                pointBackgroundColor: ink,
                stepped: true,
              },
              {
                label: solid,
                data: days.map((d) => d.solid),
                borderColor: plum,
                backgroundColor: `${plum}22`,
                fill: true,
                borderWidth: 2,
                pointRadius: days.length > 60 ? 0 : 2,
                pointBackgroundColor: plum,
                stepped: true,
              },
            ],
          },
          options: {
            animation: false,
            maintainAspectRatio: false,
            interaction: { mode: 'index', intersect: false },
            plugins: {
              legend: { align: 'start', labels: { color: ink, font, boxWidth: 24, boxHeight: 0 } },
              tooltip: { callbacks: { label: (item) => `${item.dataset.label ?? ''} ${saySize(item.parsed.y ?? 0)}` } },
            },
            scales: {
              x: { ticks: { color: ink, font, maxTicksLimit: 7, maxRotation: 0 }, grid: { color: hair } },
              y: {
                beginAtZero: true,
                ticks: { color: ink, font, maxTicksLimit: 6, callback: (value) => saySize(Number(value)) },
                grid: { color: hair },
              },
            },
          },
        });
        canvas.current.dataset['ready'] = 'true';
        destroy = () => chart.destroy();
      },
    );
    return () => {
      gone = true;
      destroy?.();
    };
  }, [days, dashed, solid]);
  const last = days.at(-1);
  return (
    <figure className="ov-chart">
      <figcaption>{caption}</figcaption>
      <div>
        <canvas
          ref={canvas}
          role="img"
          aria-label={
            last
              ? `On ${sayDate(last.at)}: ${dashed} ${saySize(last.dashed)}, ${solid} ${saySize(last.solid)}`
              : 'Nothing is kept yet'
          }
        />
      </div>
    </figure>
  );
}
