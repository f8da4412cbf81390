/** The people of the demo. All are made up. */
import type { Role } from '../web/src/contract/api.ts';

export const demoPassword = 'quillmere-landing';

export interface DemoPerson {
  readonly name: string;
  readonly email: string;
  readonly role: Role;
}

export const demoPeople: readonly DemoPerson[] = [
  { name: 'Marit Oakes', email: 'marit@quillmere.example', role: 'administrator' },
  { name: 'Tobias Renn', email: 'tobias@quillmere.example', role: 'lead' },
  { name: 'Ines Calloway', email: 'ines@quillmere.example', role: 'editor' },
  { name: 'Anselm Dray', email: 'anselm@quillmere.example', role: 'editor' },
  { name: 'Jory Pell', email: 'jory@quillmere.example', role: 'reader' },
  // The sign maker's: sees the graphics, and nothing else.
  { name: 'Wenna Strand', email: 'wenna@quillmere.example', role: 'guest' },
];
