/** Every right that somebody may have in a project, from the least. */
import { bringForward } from './bring-forward.ts';
import { changeState } from './change-state.ts';
import { checkOut } from './check-out.ts';
import { erase } from './erase.ts';
import { manage } from './manage.ts';
import { see } from './see.ts';
import { seeOldVersions } from './see-old-versions.ts';
import { takeOver } from './take-over.ts';

export const rightCards = [see, seeOldVersions, checkOut, bringForward, takeOver, changeState, erase, manage] as const;
