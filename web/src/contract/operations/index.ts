/** All operations of /api/v1, by the area that they are of. */
import { account } from './account.ts';
import { checkouts } from './checkouts.ts';
import { comments } from './comments.ts';
import { comparisons } from './comparisons.ts';
import { desk } from './desk.ts';
import { door } from './door.ts';
import { erasing } from './erasing.ts';
import { events } from './events.ts';
import { files } from './files.ts';
import { home } from './home.ts';
import { intake } from './intake.ts';
import { keeping } from './keeping.ts';
import { ledger } from './ledger.ts';
import { lines } from './lines.ts';
import { people } from './people.ts';
import { projects } from './projects.ts';
import { proposals } from './proposals.ts';
import { references } from './references.ts';
import { saving } from './saving.ts';
import { sending } from './sending.ts';
import { sets } from './sets.ts';
import { storage } from './storage.ts';
import { tokens } from './tokens.ts';
import { versions } from './versions.ts';
import { watched } from './watched.ts';

export const api = {
  door,
  people,
  account,
  tokens,
  projects,
  files,
  versions,
  lines,
  erasing,
  comparisons,
  proposals,
  references,
  checkouts,
  desk,
  saving,
  sending,
  sets,
  comments,
  home,
  intake,
  keeping,
  ledger,
  events,
  storage,
  watched,
} as const;
