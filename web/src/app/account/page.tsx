import { AccountPage } from '../../features/account/AccountPage.tsx';
import { TopBar } from '../../features/frame/TopBar.tsx';
import { visitor } from '../../server/http/visitor.ts';
import { accountOf } from '../../server/people/account.ts';
import { listTokens } from '../../server/people/tokens.ts';

export const metadata = { title: 'Account' };

export default async function Page(): Promise<React.ReactNode> {
  const person = await visitor({ early: true });
  return (
    <>
      <TopBar person={person} where={[{ name: 'Home', href: '/' }, { name: 'Account' }]} />
      <AccountPage initial={await accountOf(person)} initialTokens={await listTokens(person)} />
    </>
  );
}
