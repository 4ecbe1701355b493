import { Notice } from '@/design/Notice';
import { useSession } from '@/features/people';
import { useKeepGoing } from './usePhone';
import { useNewVersion } from './newVersion';
import { useMapTakenAlong } from './takeMap';
import { unsentIn } from './sync/ahead';
import { useKept } from './usePhone';

/** In the frame of the phone's pages: keeps sending and taking along, and says what stands in the way of it. */
export function KeepGoing() {
  const { data: phone } = useKeepGoing();
  const unsent = unsentIn(useKept(phone)).length;
  const { waits, take } = useNewVersion(unsent > 0);
  useMapTakenAlong();
  const { kept } = useSession();
  return (
    <div className="mx-auto max-w-md bg-sheet">
      {kept === 'ended' && (
        <Notice tone="warn">
          You have been signed out. What you record stays on this phone, and is sent after you have signed in
          again.{' '}
          <a href="/sign-in" className="flex min-h-14 items-center font-semibold underline">
            Sign in
          </a>
        </Notice>
      )}
      {waits && (
        <div role="status" className="flex items-center gap-2 border-b border-hairline px-3 text-sm">
          <span className="flex-1">There is a new version of this page.</span>
          {unsent > 0 ? (
            <span className="py-3">It is taken when everything is sent.</span>
          ) : (
            <button type="button" className="min-h-14 px-2 font-semibold underline" onClick={take}>
              Take it now
            </button>
          )}
        </div>
      )}
    </div>
  );
}
