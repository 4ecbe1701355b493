import { Outlet } from '@tanstack/react-router';
import { useSession } from '@/features/people';
import { Helping } from './Helping';

/** The frame of the phone's pages. */
export function Phone() {
  const { account, helper } = useSession();
  return (
    <>
      {helper && <Helping name={account?.name ?? ''} helper={helper} />}
      <Outlet />
    </>
  );
}
