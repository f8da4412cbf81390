/** What happened to the models of the demo. */
import { day } from '../day.ts';
import { shelterModel } from '../documents.ts';
import type { Step, Story } from '../story.ts';

const bracketNotes = [
  'Handrail bracket, first cast',
  'Upper holes higher: the old wall has a joint there',
  'Plate ten millimetres thick, after the load check',
  'Saved again by the print shop, finer',
  'For the west side, with a hole for the rain',
];

type NoteOf = readonly [who: Step['who'], at: string, note: string];

const shelterNotes: readonly NoteOf[] = [
  ['Ines', '2026-10-06T09:30:00Z', 'Shelter and stairs for the talk with the building office'],
  ['Ines', '2026-10-13T17:00:00Z', 'Benches with a back, as the harbour office asked for'],
  ['Tobias', '2026-10-20T11:20:00Z', 'Upper deck fifteen centimetres higher: the new tide tables'],
  ['Marit', '2026-10-27T08:40:00Z', 'Doors and walls of the store for sixty minutes'],
  ['Anselm', '2026-11-03T13:50:00Z', 'Through the exchange program, for the tender'],
  ['Anselm', '2026-11-04T18:05:00Z', 'Once more, the disk was full'],
];

const hingeNotes: readonly NoteOf[] = [
  ['Anselm', '2026-10-09T10:40:00Z', 'Hinge at the upper end of the gangway'],
  ['Anselm', '2026-10-19T15:20:00Z', 'Pin forty millimetres longer, for the split pins'],
  ['Ines', '2026-10-29T10:05:00Z', 'Opened to eighteen degrees, as at low water; six bolts instead of four'],
  ['Ines', '2026-11-06T14:30:00Z', 'M20 instead of M16, after the load check'],
];

export const modelStories: readonly Story[] = [
  {
    folder: 'Models',
    name: 'shelter.stl',
    steps: [
      { who: 'Anselm', at: '2026-10-09T09:00:00Z', note: 'Shelter, flat pitch', content: shelterModel(2900) },
      {
        who: 'Anselm',
        at: '2026-10-21T09:30:00Z',
        note: 'Steeper roof for the snow load',
        content: shelterModel(3200),
      },
    ],
  },
  {
    folder: 'Models',
    name: 'handrail-bracket.stl',
    steps: bracketNotes.map((note, stage) => ({
      who: (['Anselm', 'Tobias', 'Anselm', 'Ines', 'Tobias'] as const)[stage] ?? 'Anselm',
      at: day('2026-10-08', stage * 6, 9 + stage),
      note,
      content: { model: 'bracket', stage },
    })),
  },
  {
    folder: 'Models',
    name: 'mooring-caps.3mf',
    steps: [
      'Six caps, as on the old quay',
      'Thirty millimetres higher, for the spring tide',
      'One more, at the west end',
    ].map((note, stage) => ({
      who: (['Tobias', 'Anselm', 'Marit'] as const)[stage] ?? 'Tobias',
      at: day('2026-10-12', stage * 8, 11),
      note,
      content: { model: 'cap', stage },
    })),
  },
  {
    folder: 'Models',
    name: 'sign-post.glb',
    steps: ['Sign post, three boards', 'Larch instead of oak', 'Fourth board, and all of them lower'].map(
      (note, stage) => ({
        who: (['Ines', 'Marit', 'Ines'] as const)[stage] ?? 'Ines',
        at: day('2026-10-15', stage * 7, 14),
        note,
        content: { model: 'post', stage },
      }),
    ),
  },
  {
    folder: 'Models',
    name: 'shelter-and-stairs.ifc',
    steps: shelterNotes.map(([who, at, note], stage) => ({ who, at, note, content: { model: 'shelter', stage } })),
  },
  {
    folder: 'Models',
    name: 'gangway-hinge.step',
    steps: hingeNotes.map(([who, at, note], stage) => ({ who, at, note, content: { model: 'hinge', stage } })),
  },
];
