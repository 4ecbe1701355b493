import { useState } from 'react';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { useSignOut } from '@/features/accounts';
import type { Kept } from './sync/deeds';

/** The way out. While something is only on this phone, it says so instead, and lets it be saved to a file. */
export function SignOut({ kept }: { kept: Kept[] }) {
  const signOut = useSignOut();
  const [pressed, setPressed] = useState(false);
  const unsent = kept.filter(({ fate }) => fate === 'unsent');
  return (
    <>
      <Button
        rank="quiet"
        className="min-h-12"
        onClick={() => (unsent.length > 0 ? setPressed(true) : signOut.mutate())}
      >
        Sign out
      </Button>
      {pressed && unsent.length > 0 && (
        <div className="basis-full">
          <Notice tone="warn">
            <p>
              {unsent.length === 1 ? '1 thing is' : `${unsent.length} things are`} only on this phone. Sign
              out when {unsent.length === 1 ? 'it is' : 'they are'} sent; until then this is the only copy.
            </p>
            <a
              className="flex min-h-12 items-center underline"
              href={`data:application/json;charset=utf-8,${encodeURIComponent(fileOf(unsent))}`}
              download="not-sent.json"
            >
              Save a copy to a file
            </a>
          </Notice>
        </div>
      )}
    </>
  );
}

/** What was not sent, as somebody at the office can read it. */
const fileOf = (unsent: Kept[]) =>
  JSON.stringify(
    unsent.map(({ deed }) => ({ ...deed, done: new Date(deed.happenedAt).toISOString() })),
    null,
    2,
  );
