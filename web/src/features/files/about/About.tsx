'use client';

import { aboutPanels } from './panels.ts';

export function About(): React.ReactNode {
  return (
    <section className="ov-about" aria-label="About this version">
      {aboutPanels.map((Panel, i) => (
        <Panel key={i} />
      ))}
    </section>
  );
}
