import type { SchemaChangeProposedOut, SchemaProposalOut, SchemaRunDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { clockTime, dayName } from '@/shared/time';
import type { Shown } from '../model';
import { useAccept } from './commands';
import { Effect } from './Effect';

interface Props {
  run: SchemaRunDetailOut;
  /** Changes that were unticked. */
  left: ReadonlySet<number>;
  onLeft: (left: ReadonlySet<number>) => void;
  onShow: (placement: Shown | null) => void;
  onVisit: (id: number) => void;
}

/** What a run proposes: its effect, the changes one by one, and what is left. */
export function ProposalView({ run, left, onLeft, onShow, onVisit }: Props) {
  const proposal = run.proposal!;
  const accepted = run.accepted_at !== null;
  const toggle = (id: number) => {
    const next = new Set(left);
    if (!next.delete(id)) next.add(id);
    onLeft(next);
  };
  return (
    <>
      <Effect proposal={proposal} />
      {proposal.changes.length === 0 ? (
        <Notice>Nothing was found that would help: the plan stays as it is, and nothing changes.</Notice>
      ) : (
        <section aria-label="Changes">
          <div className="flex items-center justify-between">
            <h3 className="text-xs font-semibold text-ink-soft">
              {proposal.changes.length === 1 ? '1 change' : `${proposal.changes.length} changes`}
            </h3>
            {!accepted && (
              <button
                type="button"
                className="text-xs underline"
                onClick={() =>
                  onLeft(left.size ? new Set() : new Set(proposal.changes.map((change) => change.visit_id)))
                }
              >
                {left.size ? 'Tick all' : 'Tick none'}
              </button>
            )}
          </div>
          {accepted ? <Accepted changes={proposal.changes} /> : <AcceptButton run={run} left={left} />}
          <ol className="divide-y divide-hairline">
            {proposal.changes.map((change) => (
              <Change
                key={change.visit_id}
                change={change}
                ticked={accepted ? change.taken : !left.has(change.visit_id)}
                fixed={accepted}
                onToggle={() => toggle(change.visit_id)}
                onShow={onShow}
                onVisit={onVisit}
              />
            ))}
          </ol>
        </section>
      )}
      <ToCall proposal={proposal} onVisit={onVisit} />
      <Left proposal={proposal} onVisit={onVisit} />
    </>
  );
}

function Accepted({ changes }: Pick<SchemaProposalOut, 'changes'>) {
  const taken = changes.filter((change) => change.taken).length;
  return (
    <Notice tone="good">
      {taken === changes.length ? 'Accepted.' : `Accepted in part: ${taken}.`} Ctrl Z takes it back in one
      step.
    </Notice>
  );
}

function AcceptButton({ run, left }: Pick<Props, 'run' | 'left'>) {
  const accept = useAccept(run.id);
  const ticked = run.proposal!.changes.filter((change) => !left.has(change.visit_id));
  return (
    <Button
      rank="main"
      className="my-2 w-full"
      disabled={ticked.length === 0 || accept.isPending}
      onClick={() => accept.mutate(ticked.map((change) => change.visit_id))}
    >
      {left.size === 0 ? `Accept all ${ticked.length}` : `Accept ${ticked.length} ticked`}
    </Button>
  );
}

/** Customers who were promised what this plan does not keep. */
function ToCall({ proposal, onVisit }: { proposal: SchemaProposalOut; onVisit: Props['onVisit'] }) {
  const calls = proposal.to_call ?? [];
  if (calls.length === 0) return null;
  return (
    <section aria-label="To be called" className="border-l-4 border-warn bg-warn-wash px-2 py-1.5 text-sm">
      <h3 className="font-semibold">
        {calls.length === 1 ? '1 customer has to be called' : `${calls.length} customers have to be called`}
      </h3>
      <ul className="space-y-1">
        {calls.map((row) => (
          <li key={row.visit_id}>
            <button type="button" className="text-left hover:underline" onClick={() => onVisit(row.visit_id)}>
              <b className="font-semibold">{row.customer}</b>, {row.label}
            </button>
            <span className="block text-ink-soft">{row.why}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const VERBS = { place: 'Place', move: 'Move', retime: 'Other time', unplace: 'To the backlog' };

interface ChangeProps {
  change: SchemaChangeProposedOut;
  ticked: boolean;
  fixed: boolean;
  onToggle: () => void;
  onShow: Props['onShow'];
  onVisit: Props['onVisit'];
}

function Change({ change, ticked, fixed, onToggle, onShow, onVisit }: ChangeProps) {
  const [to] = change.after;
  const [from] = change.before;
  const show = (on: boolean) =>
    onShow(on && to ? { visitId: change.visit_id, technicianId: to.technician_id, start: to.start } : null);
  return (
    <li
      className="flex items-start gap-2 py-1.5 text-sm hover:bg-wash"
      onPointerEnter={() => show(true)}
      onPointerLeave={() => show(false)}
    >
      <input
        type="checkbox"
        className="mt-1"
        checked={ticked}
        disabled={fixed}
        aria-label={`Take over: ${change.label}`}
        onChange={onToggle}
        onFocus={() => show(true)}
        onBlur={() => show(false)}
      />
      <div className="min-w-0 flex-1">
        <button
          type="button"
          className="text-left leading-tight hover:underline"
          onClick={() => onVisit(change.visit_id)}
        >
          <span className="text-ink-soft">{VERBS[change.kind]}</span>{' '}
          <b className="font-semibold">{change.title}</b>, {change.site}
        </button>
        <p>
          {from && (
            <span className="text-ink-soft line-through">
              {from.technician}, {when(from)}
            </span>
          )}
          {from && to && ' → '}
          {to && change.after.map((place) => place.technician).join(' + ')}
          {to && `, ${when(to)}`}
        </p>
        <p className="text-ink-soft">{change.reasons.join(' · ')}</p>
      </div>
    </li>
  );
}

const when = (place: { start: number }) => `${dayName(place.start)} ${clockTime(place.start)}`;

function Left({ proposal, onVisit }: { proposal: SchemaProposalOut; onVisit: Props['onVisit'] }) {
  if (proposal.unserved.length === 0) return null;
  return (
    <details className="text-sm">
      <summary className="cursor-pointer">
        {proposal.unserved.length === 1 ? '1 visit stays' : `${proposal.unserved.length} visits stay`} in the
        backlog
      </summary>
      <ul className="mt-1 space-y-1">
        {proposal.unserved.map((row) => (
          <li key={row.visit_id}>
            <button type="button" className="text-left hover:underline" onClick={() => onVisit(row.visit_id)}>
              <b className="font-semibold">{row.title}</b>, {row.label}
            </button>
            <span className="block text-ink-soft">{row.reasons.join(' · ')}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}
