import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaAccountRowOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { useSession } from '@/features/people';
import { useSetAccount } from '../queries';
import { Help } from './Help';

/** Letting somebody in who cannot, and out who may not. */
export function OneAccount({ row }: { row: SchemaAccountRowOut }) {
  const { inviteAgain, setActive, removeFactor } = useSetAccount();
  const isOwn = useSession().account?.id === row.id;
  const error = inviteAgain.error ?? setActive.error ?? removeFactor.error;
  return (
    <section aria-label="Coming in" className="max-w-md space-y-3 text-sm">
      {error && <Notice tone="bad">{sentenceOf(error)}</Notice>}
      {row.active && !row.joined && <Invitation inviteAgain={inviteAgain} row={row} />}
      {row.second_factor && (
        <p className="flex items-center gap-2">
          <span className="flex-1">Signs in with a second factor.</span>
          <Button disabled={removeFactor.isPending} onClick={() => removeFactor.mutate(row)}>
            Phone lost: remove it
          </Button>
        </p>
      )}
      {isOwn ? (
        <p className="text-ink-soft">This is your own account.</p>
      ) : (
        <Button
          disabled={setActive.isPending}
          onClick={() =>
            setActive.mutate(
              { row, active: !row.active },
              {
                onSuccess: () =>
                  toast.success(
                    row.active ? `${row.name} is signed out everywhere` : `${row.name} may sign in again`,
                  ),
              },
            )
          }
        >
          {row.active ? 'Let them sign in no more' : 'Let them sign in again'}
        </Button>
      )}
      {row.active && !isOwn && (
        <p className="text-ink-soft">They are out at once and everywhere. What they did stays.</p>
      )}
      {row.active && row.joined && !isOwn && row.role !== 'administrator' && <Help row={row} />}
    </section>
  );
}

interface InvitationProps {
  row: SchemaAccountRowOut;
  inviteAgain: ReturnType<typeof useSetAccount>['inviteAgain'];
}

function Invitation({ row, inviteAgain }: InvitationProps) {
  const link = inviteAgain.data?.link;
  return (
    <div className="space-y-2">
      <p>Invited, and has not chosen a password yet.</p>
      <Button
        disabled={inviteAgain.isPending}
        onClick={() =>
          inviteAgain.mutate(row, {
            onSuccess: () => toast.success(`Another letter to ${row.email} is on its way`),
          })
        }
      >
        Send the invitation again and show its link
      </Button>
      {link && (
        <TextField
          label="Link, to give to them in another way"
          hint="It works once, for seven days. Whoever has it is in as them."
          readOnly
          value={link}
          onFocus={(event) => event.target.select()}
        />
      )}
    </div>
  );
}
