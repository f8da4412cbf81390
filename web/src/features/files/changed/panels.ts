/** What stands beside two versions, from top to bottom. Each panel reads what it needs from the page's state. */
import { Comments } from '../../comments/Comments.tsx';
import { Causes } from './Causes.tsx';
import { Found } from './Found.tsx';
import { List } from './List.tsx';
import { Narrowing } from './Narrowing.tsx';
import { Pages } from './Pages.tsx';
import { Pair } from './Pair.tsx';
import { PickedChanges } from './PickedChanges.tsx';
import { Proposed } from './Proposed.tsx';
import { Reports } from './Reports.tsx';
import { TitleBlockPanel } from './TitleBlockPanel.tsx';
import { Underway } from './Underway.tsx';

export const changedPanels: readonly React.FC[] = [
  Proposed,
  Pair,
  Underway,
  Found,
  Causes,
  Pages,
  TitleBlockPanel,
  Narrowing,
  List,
  Reports,
  Comments,
  PickedChanges,
];
