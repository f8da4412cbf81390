import { redirect } from 'next/navigation';
import { DoorForm } from '../../features/people/DoorForm.tsx';
import { isEmptyInstallation } from '../../server/people/service.ts';

export const metadata = { title: 'Sign in' };
export const dynamic = 'force-dynamic';

export default async function Page(): Promise<React.ReactNode> {
  if (await isEmptyInstallation()) redirect('/first');
  return <DoorForm first={false} />;
}
