/** What stands beside one version, from top to bottom. Each panel reads what it needs from the page's state. */
import { Comments } from '../../comments/Comments.tsx';
import { Acts } from './Acts.tsx';
import { Called } from './Called.tsx';
import { CheckOut } from './CheckOut.tsx';
import { Content } from './Content.tsx';
import { DrawnBy } from './DrawnBy.tsx';
import { Following } from './Following.tsx';
import { GoodToKnow } from './GoodToKnow.tsx';
import { Head } from './Head.tsx';
import { Keeping } from './Keeping.tsx';
import { Lineage } from './Lineage.tsx';
import { Lines } from './Lines.tsx';
import { PickedParts } from './PickedParts.tsx';
import { Referring } from './Referring.tsx';
import { Sitting } from './Sitting.tsx';
import { Story } from './Story.tsx';
import { Unreadable } from './Unreadable.tsx';

export const aboutPanels: readonly React.FC[] = [
  Head,
  Story,
  Sitting,
  Keeping,
  Lines,
  PickedParts,
  Acts,
  CheckOut,
  DrawnBy,
  Comments,
  Following,
  Lineage,
  Referring,
  Unreadable,
  Content,
  Called,
  GoodToKnow,
];
