'use client';

import { changedPanels } from './panels.ts';

export function WhatChanged(): React.ReactNode {
  return (
    <section className="ov-about" aria-label="What changed">
      {changedPanels.map((Panel, i) => (
        <Panel key={i} />
      ))}
    </section>
  );
}
