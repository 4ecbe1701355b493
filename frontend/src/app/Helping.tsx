import { Button } from '@/design/Button';
import { useBack } from '@/features/accounts';

/** Says, on every page, that somebody has signed in as another to help. */
export function Helping({ name, helper }: { name: string; helper: string }) {
  const back = useBack();
  return (
    <div
      role="status"
      className="flex items-center justify-center gap-3 bg-warn-wash px-3 py-1 text-sm text-warn"
    >
      You are signed in as {name}, to help.
      <Button disabled={back.isPending} onClick={() => back.mutate()}>
        Back to {helper}
      </Button>
    </div>
  );
}
