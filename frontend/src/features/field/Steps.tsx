import { Link, useNavigate } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextArea } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { useSession } from '@/features/people';
import { useFieldStep } from './commands';
import { actionsOf, type Action } from './model';
import type { OwnRow, OwnVisit } from './sync/ahead';

/** Writes a step down on this phone, and says so when it is written. */
function useTakeStep(visit: OwnVisit) {
  const step = useFieldStep(visit);
  const navigate = useNavigate();
  const take = (action: Action, note: string) =>
    step.mutate(
      { step: action.step, note },
      {
        onSuccess: () => {
          if (action.step !== 'decline') return;
          toast.success('Declined. The office is told as soon as there is a signal.');
          void navigate({ to: '/field' });
        },
      },
    );
  return { step, take };
}

interface Props {
  visit: OwnVisit;
  /** Another visit that is under way. */
  busy: OwnRow | undefined;
}

/** The next step as one large button, and what else may be done beside it. */
export function Steps({ visit, busy }: Props) {
  const [asking, setAsking] = useState<Action | null>(null);
  const { step, take } = useTakeStep(visit);
  const session = useSession();
  const leads = visit.technician_id === session.account?.technician_id;
  // Nobody is on two visits at a time.
  const blocked = busy !== undefined && leads && visit.state === 'accepted';
  const actions = actionsOf(visit.actions, leads);
  if (actions.length === 0) return null;
  const main = blocked ? undefined : actions[0];
  const others = blocked ? actions.filter(({ step }) => step === 'decline') : actions.slice(1);
  const press = (action: Action) => (action.ask ? setAsking(action) : take(action, ''));
  return (
    <div className="space-y-2 border-t border-hairline bg-paper p-3">
      {blocked && <FirstThat row={busy} />}
      {step.isError && <Notice tone="bad">{sentenceOf(step.error)}</Notice>}
      {asking ? (
        <WithNote
          asking={asking}
          busy={step.isPending}
          onBack={() => setAsking(null)}
          onTake={(note) => take(asking, note)}
        />
      ) : (
        <>
          {main && (
            <Button
              size="thumb"
              rank="main"
              className="min-h-16 w-full text-xl"
              disabled={step.isPending}
              onClick={() => press(main)}
            >
              {main.label}
            </Button>
          )}
          {others.length > 0 && (
            <div className="flex gap-2">
              {others.map((action) => (
                <Button
                  key={action.step}
                  size="thumb"
                  className="flex-1 text-base"
                  disabled={step.isPending}
                  onClick={() => press(action)}
                >
                  {action.label}
                </Button>
              ))}
            </div>
          )}
        </>
      )}
    </div>
  );
}

const FirstThat = ({ row }: { row: OwnRow }) => (
  <Notice tone="warn">
    <Link to="/field/$visitId" params={{ visitId: String(row.id) }} className="underline">
      {row.title}, {row.site}
    </Link>{' '}
    is still under way: finish it or put it on hold first.
  </Notice>
);

interface WithNoteProps {
  asking: Action;
  busy: boolean;
  onBack: () => void;
  onTake: (note: string) => void;
}

/** A step that needs a word. */
function WithNote({ asking, busy, onBack, onTake }: WithNoteProps) {
  const [note, setNote] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (note.trim()) onTake(note);
  };
  return (
    <form onSubmit={submit} className="space-y-2">
      <TextArea
        label={asking.ask ?? ''}
        rows={3}
        autoFocus
        value={note}
        onChange={(event) => setNote(event.target.value)}
        className="text-base"
      />
      <div className="grid grid-cols-[1fr_2fr] gap-2">
        <Button size="thumb" rank="quiet" onClick={onBack}>
          Back
        </Button>
        <Button size="thumb" type="submit" rank="main" disabled={!note.trim() || busy}>
          {asking.label}
        </Button>
      </div>
    </form>
  );
}
