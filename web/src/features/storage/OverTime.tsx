'use client';

import { useEffect, useRef } from 'react';
import type { StorageReport } from '../../contract/storage.ts';
import { sayDate, saySize } from '../words.ts';

/** Kept against stored bytes, day by day. The table beneath says the same to those who cannot see the chart. */
export function OverTime({ days }: { days: StorageReport['overTime'] }): React.ReactNode {
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
            labels: days.map((d) => sayDate(d.day)),
            datasets: [
              {
                label: 'Kept',
                data: days.map((d) => d.kept),
                borderColor: ink,
                borderDash: [5, 4],
                borderWidth: 1.5,
                pointRadius: days.length > 60 ? 0 : 2,
                pointBackgroundColor: ink,
                stepped: true,
              },
              {
                label: 'Stored',
                data: days.map((d) => d.stored),
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
  }, [days]);
  const last = days.at(-1);
  return (
    <figure className="ov-chart">
      <figcaption>Kept and stored, day by day</figcaption>
      <div>
        <canvas
          ref={canvas}
          role="img"
          aria-label={
            last
              ? `On ${sayDate(last.day)}: ${saySize(last.kept)} kept, ${saySize(last.stored)} stored`
              : 'Nothing is kept yet'
          }
        />
      </div>
    </figure>
  );
}
