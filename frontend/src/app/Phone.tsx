import { Outlet } from '@tanstack/react-router';
import { lazy, Suspense } from 'react';
import { useSession } from '@/features/people';
import { Helping } from './Helping';

const KeepGoing = lazy(() =>
  import('@/features/field/pages').then((pages) => ({ default: pages.KeepGoing })),
);

/** The frame of the phone's pages. */
export function Phone() {
  const { account, helper } = useSession();
  return (
    <>
      {helper && <Helping name={account?.name ?? ''} helper={helper} />}
      <Suspense>
        <KeepGoing />
      </Suspense>
      <Outlet />
    </>
  );
}
