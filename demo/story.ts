/**
 * What happened to each file of the demo, in order: who, when, why. Deterministic: the same bytes and dates every
 * time.
 */
import type { KeepingRule } from '@ovrel/core';
import { boards, drawBoard } from './drawings/signs.ts';
import { drawGangway, drawPlan, gangways, plans } from './drawings/plan.ts';
import { drawFraming, framings } from './drawings/framing.ts';
import type { Plot } from './drawings/plot.ts';
import type { Poster } from './drawings/poster.ts';
import { posters } from './drawings/poster.ts';
import type { Shot } from './drawings/photograph.ts';
import { issues, type Issue } from './drawings/sheets.ts';
import type { ModelStage } from './models/make.ts';
import { day } from './day.ts';
import { methodStatements } from './documents.ts';
import { modelStories } from './models/stories.ts';
import { tableStories } from './tables/stories.ts';
import { realFiles } from './real/edits.ts';

export interface Step {
  readonly who: 'Marit' | 'Tobias' | 'Ines' | 'Anselm';
  /** UTC. */
  readonly at: string;
  readonly note: string;
  readonly title?: string;
  /** The content, or the number of the version that is brought forward. */
  readonly content:
    | string
    | Uint8Array
    | { readonly forward: number }
    | { readonly layers: Poster }
    | { readonly print: Poster }
    | { readonly shot: Shot }
    | { readonly sheets: Issue }
    | { readonly plot: Plot }
    | ModelStage
    | { readonly workbook: number }
    | { readonly locked: { readonly lines: readonly string[]; readonly date: string; readonly password: string } };
}

export interface Story {
  readonly folder: string;
  readonly name: string;
  readonly steps: readonly Step[];
}

const signs: Story = {
  folder: 'Graphics',
  name: 'wayfinding-signs.svg',
  steps: [
    {
      who: 'Ines',
      at: '2026-10-12T08:40:00Z',
      note: 'First three signs for the talk with the harbour office',
      content: drawBoard(boards.first),
    },
    {
      who: 'Anselm',
      at: '2026-10-14T13:05:00Z',
      note: 'Toilets and bicycles added, step-free route drawn in',
      content: drawBoard(boards.withMore),
    },
    {
      who: 'Tobias',
      at: '2026-10-16T09:20:00Z',
      note: 'Darker ground: the blue was too weak against the sea',
      content: drawBoard(boards.darker),
    },
    {
      who: 'Ines',
      at: '2026-10-19T15:45:00Z',
      note: 'Barbed arrow, reads from further away',
      content: drawBoard(boards.newArrow),
    },
    {
      who: 'Marit',
      at: '2026-10-22T10:10:00Z',
      note: 'Destinations and tactile dots, as agreed with the council',
      title: 'Agreed with council',
      content: drawBoard(boards.approved),
    },
    { who: 'Anselm', at: '2026-10-26T16:55:00Z', note: 'Tidied up layers', content: drawBoard(boards.destroyed) },
    {
      who: 'Tobias',
      at: '2026-10-27T07:50:00Z',
      note: 'the tidying had taken out the route, the tactile dots and a sign',
      content: { forward: 5 },
    },
    {
      who: 'Ines',
      at: '2026-10-29T11:30:00Z',
      note: 'Lift sign; toilets sign goes to the east end',
      content: drawBoard(boards.lift),
    },
    {
      who: 'Marit',
      at: '2026-11-02T14:15:00Z',
      note: 'Frame and lettering for engraving',
      title: 'For the sign maker',
      content: drawBoard(boards.engraved),
    },
  ],
};

const layeredPoster: Story = {
  folder: 'Graphics',
  name: 'season-poster.ora',
  steps: [
    {
      who: 'Ines',
      at: '2026-10-08T11:40:00Z',
      note: 'Spring poster, first colours',
      content: { layers: posters.first },
    },
    {
      who: 'Ines',
      at: '2026-10-12T10:15:00Z',
      note: 'Warmer sky, and a sun in it',
      content: { layers: posters.warmer },
    },
    {
      who: 'Ines',
      at: '2026-10-14T15:20:00Z',
      note: 'Texture of birch bark over it all',
      content: { layers: posters.textured },
    },
    {
      who: 'Anselm',
      at: '2026-10-16T08:55:00Z',
      note: 'Ferry further out, so that it does not look moored',
      content: { layers: posters.moved },
    },
    {
      who: 'Ines',
      at: '2026-10-20T12:10:00Z',
      note: 'Sailing times and the landing mark',
      content: { layers: posters.withTimes },
    },
    {
      who: 'Ines',
      at: '2026-10-24T12:05:00Z',
      note: 'Sun sets into the sea; texture was too strong',
      title: 'Shown to the council',
      content: { layers: posters.setting },
    },
    { who: 'Anselm', at: '2026-10-27T17:30:00Z', note: 'Tidied up', content: { layers: posters.tidied } },
    { who: 'Anselm', at: '2026-10-27T17:45:00Z', note: 'Smaller file', content: { layers: posters.flattened } },
    {
      who: 'Ines',
      at: '2026-10-28T08:10:00Z',
      note: 'layers are needed for the summer poster',
      content: { forward: 6 },
    },
    {
      who: 'Ines',
      at: '2026-11-05T15:50:00Z',
      note: 'Summer times',
      title: 'For the printer',
      content: { layers: posters.printed },
    },
  ],
};

const never = (): never => {
  throw new Error('the plan of the demo has no such state');
};

const planNotes = [
  'Survey and first layout',
  'Fenders on the sea side',
  'Shore-side piles moved clear of the old footing',
  'Longer pontoon, gangway follows',
  'Kiosk in steel after the fire officer’s visit',
];
const planPeople = ['Tobias', 'Ines', 'Tobias', 'Ines', 'Marit'] as const;

export function stories(): Story[] {
  return [
    {
      folder: 'Drawings',
      name: 'landing-plan.svg',
      steps: plans.map((plan, i) => ({
        who: planPeople[i] ?? 'Tobias',
        at: day('2026-10-05', i * 5, 9 + i),
        note: planNotes[i] ?? '',
        content: drawPlan(plan),
      })),
    },
    {
      folder: 'Drawings',
      name: 'gangway-hinge.svg',
      steps: gangways.map((g, i) => ({
        who: (['Anselm', 'Tobias', 'Anselm'] as const)[i] ?? 'Anselm',
        at: day('2026-10-13', i * 4, 10 + i),
        note:
          ['Hinge as in the tender', 'M20 bolts, after the load check', 'Stiffeners along the whole plate'][i] ?? '',
        content: drawGangway(g),
      })),
    },
    {
      folder: 'Drawings',
      name: 'deck-framing.dxf',
      steps: framings.map(({ note, framing }, i) => ({
        who: (['Tobias', 'Anselm', 'Tobias', 'Ines', 'Anselm', 'Marit', 'Tobias'] as const)[i] ?? 'Tobias',
        at: day('2026-10-06', i * 5, 10 + (i % 4)),
        note,
        content: drawFraming(framing),
      })),
    },
    signs,
    layeredPoster,
    {
      folder: 'Graphics',
      name: 'season-poster.png',
      steps: [
        {
          who: 'Ines',
          at: '2026-10-08T12:00:00Z',
          note: 'Export of v1, for the talk',
          content: { print: posters.first },
        },
        { who: 'Ines', at: '2026-10-24T12:30:00Z', note: 'Export of v6', content: { print: posters.setting } },
        {
          who: 'Ines',
          at: '2026-11-05T16:10:00Z',
          note: 'Export for the printer',
          title: 'Sent to print',
          content: { print: posters.printed },
        },
      ],
    },
    {
      folder: 'Graphics',
      name: 'old-landing.jpg',
      steps: [
        {
          who: 'Ines',
          at: '2026-10-09T16:20:00Z',
          note: 'Taken from the slip, for the season poster',
          content: { shot: { quality: 92 } },
        },
        {
          who: 'Ines',
          at: '2026-10-12T17:05:00Z',
          note: 'Made smaller for the mail',
          content: { shot: { quality: 72 } },
        },
        {
          who: 'Ines',
          at: '2026-10-14T08:30:00Z',
          note: 'Lighter, it prints too dark',
          content: { shot: { quality: 92, brighter: 18 } },
        },
        {
          who: 'Anselm',
          at: '2026-10-19T09:10:00Z',
          note: 'Boat taken out, as the harbour office asked',
          content: { shot: { quality: 92, brighter: 18, retouch: 'boat' } },
        },
        {
          who: 'Anselm',
          at: '2026-10-22T15:40:00Z',
          note: 'A few more touches',
          content: { shot: { quality: 90, brighter: 18, retouch: 'everything', crop: [0, 40, 60, 80] } },
        },
      ],
    },
    {
      folder: 'Drawings',
      name: 'landing-set.pdf',
      steps: issues.map((sheets, i) => ({
        who: (['Tobias', 'Ines', 'Marit'] as const)[i] ?? 'Tobias',
        at: `${sheets.date}T15:30:00Z`,
        note:
          [
            'Nine sheets for the harbour office',
            'Longer gangway with a landing plate; timber goes into its own list',
            'For construction: signs to the front, paint on the steel',
          ][i] ?? '',
        ...(i === 2 ? { title: 'For construction' } : {}),
        content: { sheets },
      })),
    },
    {
      folder: 'Drawings',
      name: 'landing-plan-print.pdf',
      steps: [
        {
          who: 'Tobias',
          at: '2026-10-21T08:30:00Z',
          note: 'Plotted for the harbour office',
          content: {
            plot: {
              drawing: drawPlan(plans[3] ?? never()),
              title: 'Landing plan',
              number: 'QFL-A-101',
              revision: 'P04',
              date: '2026-10-21',
            },
          },
        },
      ],
    },
    {
      folder: 'Documents',
      name: 'piling-rates.pdf',
      steps: [
        {
          who: 'Marit',
          at: '2026-10-12T07:30:00Z',
          note: 'Rates of the piling firm, confidential; the password is that of the tender, Thornholm',
          content: {
            locked: {
              lines: [
                'Piling rates, Quillmere ferry landing',
                'Steel pile, 406 mm: 310 a metre',
                'Moving the barge: 1,900 a day',
              ],
              date: '2026-10-12',
              password: 'Thornholm',
            },
          },
        },
        {
          who: 'Marit',
          at: '2026-10-30T09:10:00Z',
          note: 'After the talk with them',
          content: {
            locked: {
              lines: [
                'Piling rates, Quillmere ferry landing',
                'Steel pile, 406 mm: 295 a metre',
                'Moving the barge: 1,900 a day',
              ],
              date: '2026-10-30',
              password: 'Thornholm',
            },
          },
        },
      ],
    },
    ...modelStories,
    ...tableStories,
    {
      folder: 'Documents',
      name: 'method-statement.md',
      steps: methodStatements.map((content, i) => ({
        who: (['Tobias', 'Marit', 'Tobias'] as const)[i] ?? 'Tobias',
        at: day('2026-10-06', i * 8, 13),
        note: ['Draft for the harbour office', 'Their remarks', 'Hinge test and handing over'][i] ?? '',
        content,
      })),
    },
    ...realFiles().map((file, k) => ({
      folder: 'Borrowed drawings',
      name: file.name,
      steps: file.versions.map((v, i) => ({
        who: (['Ines', 'Anselm'] as const)[i % 2] ?? 'Ines',
        at: day('2026-10-15', k + i * 3, 11),
        note: v.note,
        content: Uint8Array.from(Buffer.from(v.content, 'latin1')),
      })),
    })),
  ];
}

/** Two sheets that show other files of the project; one of them also names a photograph that nobody has checked in. */
export const sheets: readonly { readonly name: string; readonly content: string }[] = [
  { name: 'sheet-01.svg', content: sheet('Sheet 01: landing, general arrangement', ['../Drawings/landing-plan.svg']) },
  {
    name: 'sheet-02.svg',
    content: sheet('Sheet 02: signs and notices', [
      '../Graphics/wayfinding-signs.svg',
      '../Graphics/season-poster.png',
      'photos/old-landing.jpg',
    ]),
  },
];

function sheet(title: string, pictures: readonly string[]): string {
  const width = 400 / pictures.length;
  const shown = pictures.map(
    (href, i) => `  <image href="${href}" x="${10 + i * width}" y="10" width="${width - 10}" height="230"/>`,
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 420 297" width="420mm" height="297mm">
  <rect id="frame" x="5" y="5" width="410" height="287" fill="none" stroke="#17212B" stroke-width="0.7"/>
${shown.join('\n')}
  <g id="title-block"><rect x="255" y="255" width="160" height="37" fill="none" stroke="#17212B" stroke-width="0.35"/>
    <text x="260" y="270" font-family="sans-serif" font-size="6">${title}</text><text x="260" y="284" font-family="sans-serif" font-size="4">Quillmere ferry landing, scale 1:100</text></g>
</svg>
`;
}

/** What Anselm writes into the method statement while he has it checked out. */
export const underWay = [
  'The tide tables of the harbour office are the ones that count, also where the contractor has others.',
  'No lifting over the slipway between one hour before and one hour after low water.',
  'The standby boat is at the float whenever somebody works over the side.',
] as const;

export const deletedSketch = {
  name: 'kiosk-lettering.svg',
  note: 'Lettering for the kiosk, a try',
  why: 'The kiosk keeps its old lettering',
  content:
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 40" width="120mm" height="40mm"><text id="kiosk" x="8" y="27" font-family="serif" font-size="20">Tickets</text></svg>\n',
} as const;

/** Tried on a line of its own beside the hinge's main line, and not joined yet. */
export const twelveBolts = {
  line: 'Twelve bolts',
  why: 'The harbour office asks whether smaller bolts would do if there were more of them.',
  note: 'Twelve M16 instead of eight M20',
  content: drawGangway({ bolt: 'M16', bolts: 12, stiffeners: 2, revision: 'P02' }),
} as const;

/** What Tobias has said of the project: no check-in ever goes, saves are thinned out. */
export const keepingRule: KeepingRule = {
  'check-in': [{ one: 'version', days: null }],
  autosave: [
    { one: 'version', days: 5 },
    { one: 'sitting', days: 90 },
  ],
  backup: [
    { one: 'hour', days: 2 },
    { one: 'day', days: 30 },
    { one: 'week', days: 365 },
  ],
};
