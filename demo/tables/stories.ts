/** What happened to the tables of the demo. */
import { day } from '../day.ts';
import { steelSchedules, timberSchedules } from '../documents.ts';
import type { Step, Story } from '../story.ts';

const steel: readonly (readonly [who: Step['who'], at: string, note: string])[] = [
  ['Anselm', '2026-10-08T09:10:00Z', 'Steel with its masses, for the order'],
  ['Anselm', '2026-10-14T11:30:00Z', 'Handrail put in'],
  ['Ines', '2026-10-21T08:55:00Z', 'Coating in a column of its own'],
  ['Tobias', '2026-10-26T15:40:00Z', 'Heavier main beams'],
  ['Marit', '2026-10-30T17:20:00Z', 'Mass of the corner posts as the mill says'],
  ['Marit', '2026-11-02T09:05:00Z', 'In the order of the sections, for the mill'],
  ['Anselm', '2026-11-09T13:15:00Z', 'Eight in a hundred for waste instead of five; all masses worked out again'],
];

export const tableStories: readonly Story[] = [
  {
    folder: 'Schedules',
    name: 'steel-quantities.xlsx',
    steps: steel.map(([who, at, note], stage) => ({ who, at, note, content: { workbook: stage } })),
  },
  {
    folder: 'Schedules',
    name: 'steel-schedule.csv',
    steps: steelSchedules.map((content, i) => ({
      who: (['Tobias', 'Anselm', 'Tobias', 'Marit'] as const)[i] ?? 'Tobias',
      at: day('2026-10-07', i * 6, 8 + i),
      note: ['From the tender', 'Handrail added', 'Heavier main beams', 'Total for the order'][i] ?? '',
      content,
    })),
  },
  {
    folder: 'Schedules',
    name: 'timber-schedule.csv',
    steps: timberSchedules.map((content, i) => ({
      who: 'Ines' as const,
      at: day('2026-10-07', i * 9, 14),
      note: ['Deck and frame', 'Longer pontoon: more deck boards, kerbs'][i] ?? '',
      content,
    })),
  },
];
