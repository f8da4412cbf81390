import { DeskPage } from '../../features/desk/DeskPage.tsx';
import { TopBar } from '../../features/frame/TopBar.tsx';
import { listHeld } from '../../server/checkouts/service.ts';
import { visitor } from '../../server/http/visitor.ts';
import { listTokens } from '../../server/people/tokens.ts';

export const metadata = { title: 'Desk' };

export default async function Page(): Promise<React.ReactNode> {
  const person = await visitor();
  const [held, tokens] = await Promise.all([listHeld(person, { mine: 'yes' }), listTokens(person)]);
  return (
    <>
      <TopBar person={person} where={[{ name: 'Home', href: '/' }, { name: 'Desk' }]} />
      <DeskPage initial={held} initialTokens={tokens} />
    </>
  );
}
