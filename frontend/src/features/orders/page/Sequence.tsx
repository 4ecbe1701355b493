import { useNavigate } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaOrderDetailOut, SchemaOrderVisitOut } from '@/api/types';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { serverNow } from '@/shared/clock';
import { isoDay, length, parseGap, parseLength } from '@/shared/time';
import { useAddVisit, useLink, usePlanSequence, useTurnLink, useUnlink } from '../queries';
import { SequenceDiagram } from './SequenceDiagram';
import { KINDS, kindWords, type LinkKind } from './links';
import { VisitRow } from './VisitRow';

interface Props {
  order: SchemaOrderDetailOut;
  canChange: boolean;
}

/** The visits of an order and the links between them: picked, or drawn on the diagram. */
export function Sequence({ order, canChange }: Props) {
  const [adding, setAdding] = useState(false);
  const several = order.visits.length > 1;
  return (
    <section aria-label="Visits" className="space-y-2">
      <div className="flex items-center gap-2">
        <h2 className="text-sm font-semibold">Visits · {order.visits.length}</h2>
        {canChange && (
          <Button aria-expanded={adding} onClick={() => setAdding((value) => !value)}>
            Add a visit
          </Button>
        )}
        {several && <PlanInOneStep order={order} />}
      </div>
      {adding && <AddVisit order={order} onDone={() => setAdding(false)} />}
      <ul className="divide-y divide-hairline border-y border-hairline text-sm">
        {order.visits.map((visit) => (
          <VisitRow key={visit.id} order={order} visit={visit} canChange={canChange} />
        ))}
      </ul>
      {several && <Links order={order} canChange={canChange} />}
    </section>
  );
}

function PlanInOneStep({ order }: { order: SchemaOrderDetailOut }) {
  const plan = usePlanSequence();
  const navigate = useNavigate();
  const canPlan = may(useSession(), 'plan');
  const open = order.visits.filter((visit) => visit.state === 'open');
  if (!canPlan || open.length === 0) return null;
  return (
    <Button
      rank="main"
      disabled={plan.isPending}
      onClick={() =>
        plan.mutate(
          { day: isoDay(serverNow()), visitIds: open.map((visit) => visit.id) },
          {
            onSuccess: (run) => void navigate({ to: '/board', search: { run: run.id } }),
            onError: (error) => toast.error(sentenceOf(error)),
          },
        )
      }
    >
      Plan the sequence in one step
    </Button>
  );
}

/** How visits are tied: on the diagram, by picking two, and as a list in which they are untied. */
function Links({ order, canChange }: Props) {
  const [kind, setKind] = useState<LinkKind>('after');
  const [gap, setGap] = useState('');
  const link = useLink(order.id);
  const least = kind !== 'after' || !gap.trim() ? 0 : parseGap(gap);
  const tie = (first: number, second: number) => {
    if (least === null) return;
    link.mutate(
      { version: order.version, kind, first_id: first, second_id: second, least, greatest: null },
      // The next link has a gap of its own.
      { onSuccess: () => setGap('') },
    );
  };
  return (
    <>
      <SequenceDiagram visits={order.visits} links={order.links} onDraw={canChange ? tie : undefined} />
      {canChange && (
        <TieForm
          order={order}
          kind={kind}
          onKind={setKind}
          gap={gap}
          onGap={setGap}
          wrongGap={least === null}
          busy={link.isPending}
          onTie={tie}
        />
      )}
      {link.isError && <Notice tone="bad">{sentenceOf(link.error)}</Notice>}
      <ul className="text-sm" aria-label="Links">
        {order.links.map((row) => (
          <LinkRow key={row.id} row={row} order={order} canChange={canChange} />
        ))}
      </ul>
    </>
  );
}

interface TieProps {
  order: SchemaOrderDetailOut;
  kind: LinkKind;
  onKind: (kind: LinkKind) => void;
  gap: string;
  onGap: (gap: string) => void;
  wrongGap: boolean;
  busy: boolean;
  onTie: (first: number, second: number) => void;
}

function TieForm({ order, kind, onKind, gap, onGap, wrongGap, busy, onTie }: TieProps) {
  const [from, setFrom] = useState<number | null>(null);
  const [to, setTo] = useState<number | null>(null);
  return (
    <form
      className="flex flex-wrap items-end gap-2 text-sm"
      aria-label="Link"
      onSubmit={(event) => {
        event.preventDefault();
        if (from !== null && to !== null) onTie(from, to);
      }}
    >
      <Pick label="Visit" visits={order.visits} value={to} onChange={setTo} />
      <label>
        <span className="block text-xs font-semibold text-ink-soft">is tied</span>
        <select
          className="rounded-sm border border-hairline bg-sheet px-2 py-1.5"
          value={kind}
          onChange={(event) => onKind(event.target.value as LinkKind)}
        >
          {KINDS.map((row) => (
            <option key={row} value={row}>
              {kindWords(row)}
            </option>
          ))}
        </select>
      </label>
      <Pick label="to" visits={order.visits} value={from} onChange={setFrom} />
      {kind === 'after' && (
        <TextField
          label="at least so long after"
          placeholder="2h, 1d"
          error={wrongGap ? 'Like 45, 2h, 1:30 or 1d' : undefined}
          className="w-36"
          value={gap}
          onChange={(event) => onGap(event.target.value)}
        />
      )}
      <Button type="submit" disabled={from === null || to === null || busy || wrongGap}>
        Tie them
      </Button>
    </form>
  );
}

function LinkRow({ row, order, canChange }: Props & { row: SchemaOrderDetailOut['links'][number] }) {
  const unlink = useUnlink(order.id);
  const turn = useTurnLink(order.id);
  const [first, second] = [labelOf(order, row.first_id), labelOf(order, row.second_id)];
  const link = { linkId: row.id, version: order.version };
  return (
    <li className="flex items-center gap-2">
      <b>{second}</b> {kindWords(row.kind)} <b>{first}</b>
      {row.least > 0 && <span className="text-ink-soft">at least {length(row.least)} later</span>}
      {canChange && row.kind === 'after' && (
        <Button
          rank="quiet"
          title={`${first} then comes after ${second}`}
          disabled={turn.isPending}
          onClick={() => turn.mutate(link, { onError: (error) => toast.error(sentenceOf(error)) })}
        >
          Turn round
        </Button>
      )}
      {canChange && (
        <Button rank="quiet" aria-label={`Untie ${second} from ${first}`} onClick={() => unlink.mutate(link)}>
          ✕
        </Button>
      )}
    </li>
  );
}

function AddVisit({ order, onDone }: { order: SchemaOrderDetailOut; onDone: () => void }) {
  const [title, setTitle] = useState('');
  const [time, setTime] = useState('');
  const [crew, setCrew] = useState('1');
  const add = useAddVisit(order.id);
  const wrongLength = time.trim() !== '' && parseLength(time) === null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.mutate(
      {
        version: order.version,
        title,
        duration_seconds: time.trim() ? parseLength(time) : null,
        needs: order.visits[0]?.needs ?? {},
        crew: Number(crew) || 1,
      },
      { onSuccess: onDone },
    );
  };
  return (
    <form
      onSubmit={submit}
      className="flex items-end gap-2 border-l-2 border-copper pl-2"
      aria-label="New visit"
    >
      <TextField label="What for" autoFocus value={title} onChange={(e) => setTitle(e.target.value)} />
      <TextField
        label="Length"
        error={wrongLength ? 'Like 45 or 1:30' : undefined}
        className="w-24"
        placeholder="45 or 1:30"
        value={time}
        onChange={(e) => setTime(e.target.value)}
      />
      <TextField label="Crew" className="w-14" value={crew} onChange={(e) => setCrew(e.target.value)} />
      <Button type="submit" disabled={!title.trim() || wrongLength || add.isPending}>
        Add it
      </Button>
      <FormError error={add.error} />
    </form>
  );
}

function Pick({
  label,
  visits,
  value,
  onChange,
}: {
  label: string;
  visits: SchemaOrderVisitOut[];
  value: number | null;
  onChange: (id: number | null) => void;
}) {
  return (
    <label>
      <span className="block text-xs font-semibold text-ink-soft">{label}</span>
      <select
        aria-label={label}
        className="max-w-52 rounded-sm border border-hairline bg-sheet px-2 py-1.5"
        value={value ?? ''}
        onChange={(event) => onChange(event.target.value ? Number(event.target.value) : null)}
      >
        <option value="">choose…</option>
        {visits.map((visit) => (
          <option key={visit.id} value={visit.id}>
            {visit.label} {visit.part_title}
          </option>
        ))}
      </select>
    </label>
  );
}

function labelOf(order: SchemaOrderDetailOut, id: number): string {
  return order.visits.find((visit) => visit.id === id)?.label ?? '?';
}
