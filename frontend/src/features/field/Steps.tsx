import { Link, useNavigate } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { Button } from '@/design/Button';
import { TextArea } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { useSession } from '@/features/people';
import { useFieldStep } from './commands';
import { actionsOf, type Action } from './model';
import type { OwnRow, OwnVisit } from './sync/ahead';
import { standingsOf } from './sync/report';
import { isOfTheWay, nextOf, type Standing } from './sync/steps';
import { KIND_WORDS } from '@/shared/steps';
import { inWords } from './trouble';
import { useDraft } from './work/draft';
import { saidOf } from './work/saidOf';

/** Writes a step down on this phone, and says so when it is written. */
function useTakeStep(visit: OwnVisit) {
  const step = useFieldStep(visit);
  const navigate = useNavigate();
  const take = (action: Action, note: string, written?: () => void) =>
    step.mutate(
      { step: action.step, note },
      {
        onSuccess: () => {
          written?.();
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
  const { work, main, others } = offered(visit, actions, { blocked, leads });
  const press = (action: Action) => (action.ask ? setAsking(action) : take(action, ''));
  return (
    <div className="space-y-2 border-t border-hairline bg-paper p-3">
      {blocked && <FirstThat row={busy} />}
      {step.isError && <Notice tone="bad">{inWords(step.error)}</Notice>}
      {asking ? (
        <WithNote
          visitId={visit.id}
          asking={asking}
          busy={step.isPending}
          onBack={() => setAsking(null)}
          onTake={(note, written) => take(asking, note, written)}
        />
      ) : (
        <>
          {work && <ToWork visit={visit} row={work} />}
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

/**
 * The one large action: a step of the way, or a part of the work that has to be done first. Nothing is finished before
 * what must be done is; what else may be done stands beside it.
 */
function offered(
  visit: OwnVisit,
  actions: Action[],
  { blocked, leads }: { blocked: boolean; leads: boolean },
) {
  if (blocked) return { main: undefined, others: actions.filter(({ step }) => step === 'decline') };
  const rows = standingsOf(visit.report, visit.state);
  const next = nextOf(rows);
  const first = actions[0];
  const work = leads && first && ASKED_FOR[first.step] && next && !isOfTheWay(next.kind) ? next : undefined;
  if (!work) return { main: first, others: actions.slice(1) };
  return { work, main: undefined, others: actions.filter(({ step }) => step !== 'finish') };
}

/** Steps of the way before which something of the work may be wanted. */
const ASKED_FOR: Partial<Record<Action['step'], boolean>> = { depart: true, arrive: true, finish: true };

/** A part of the work that has to be done, and how much of it is missing. */
const ToWork = ({ visit, row }: { visit: OwnVisit; row: Standing }) => (
  <Link
    to="/field/$visitId/work/$kind"
    params={{ visitId: String(visit.id), kind: row.kind }}
    className="flex min-h-16 flex-col items-center justify-center rounded-sm border border-copper bg-copper px-3 text-xl font-semibold text-copper-ink"
  >
    {KIND_WORDS[row.kind]}
    <span className="text-sm font-normal">{saidOf(row, visit.report)}</span>
  </Link>
);

const FirstThat = ({ row }: { row: OwnRow }) => (
  <Notice tone="warn">
    <Link to="/field/$visitId" params={{ visitId: String(row.id) }} className="underline">
      {row.title}, {row.site}
    </Link>{' '}
    is still under way: finish it or put it on hold first.
  </Notice>
);

interface WithNoteProps {
  visitId: number;
  asking: Action;
  busy: boolean;
  onBack: () => void;
  /** `written` is called when it is on the phone: until then the words are kept as they are. */
  onTake: (note: string, written: () => void) => void;
}

/** A step that needs a word. */
function WithNote({ visitId, asking, busy, onBack, onTake }: WithNoteProps) {
  const draft = useDraft(`${visitId} ${asking.step}`, '');
  const note = draft.text;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (note.trim()) onTake(note, () => void draft.done());
  };
  return (
    <form onSubmit={submit} className="space-y-2">
      <TextArea
        label={asking.ask ?? ''}
        rows={3}
        autoFocus
        value={note}
        maxLength={2000}
        onChange={(event) => draft.type(event.target.value)}
        className="[&_label]:text-sm [&_textarea]:text-lg"
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
