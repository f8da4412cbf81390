import { HomePage } from '../features/home/HomePage.tsx';
import { TopBar } from '../features/frame/TopBar.tsx';
import { homeOf } from '../server/home/service.ts';
import { visitor } from '../server/http/visitor.ts';
import { may } from '../server/people/permissions.ts';

export default async function Page(): Promise<React.ReactNode> {
  const person = await visitor();
  return (
    <>
      <TopBar person={person} where={[{ name: 'Home' }]} />
      <HomePage
        initial={await homeOf(person)}
        mayMake={may(person, 'make projects')}
        mayLook={may(person, 'read')}
        mayManagePeople={may(person, 'manage people')}
      />
    </>
  );
}
