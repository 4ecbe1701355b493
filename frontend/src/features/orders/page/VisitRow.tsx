import { Link } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaOrderDetailOut, SchemaOrderVisitOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { StateSign } from '@/design/StateSign';
import { clockTime, dayName, isoDay, length, moment, stamp, window_ } from '@/shared/time';
import { useChangeVisit, useRemoveVisit, useSpread } from '../queries';

interface Props {
  order: SchemaOrderDetailOut;
  visit: SchemaOrderVisitOut;
  canChange: boolean;
}

/** One visit of an order: when, who, how long, promised, due; renamed, given another deadline, split or removed. */
export function VisitRow({ order, visit, canChange }: Props) {
  const [changing, setChanging] = useState(false);
  return (
    <li className="flex flex-wrap items-center gap-3 py-1.5">
      <span className="w-36 shrink-0">
        <StateSign state={visit.state} />
      </span>
      <span className="min-w-0 flex-1">
        <Link
          to="/board"
          search={{ visit: visit.id, ...(visit.start ? { day: isoDay(visit.start) } : {}) }}
          className="font-semibold underline"
        >
          {visit.label}
        </Link>{' '}
        {visit.part_title}
        <span className="block text-ink-soft">{factsOf(visit).join(' · ')}</span>
      </span>
      {canChange && !visit.over && (
        <Button rank="quiet" aria-expanded={changing} onClick={() => setChanging((value) => !value)}>
          Name, due
        </Button>
      )}
      {canChange && visit.state === 'open' && <SplitOrRemove order={order} visit={visit} />}
      {changing && <VisitForm orderId={order.id} visit={visit} onDone={() => setChanging(false)} />}
    </li>
  );
}

const factsOf = (visit: SchemaOrderVisitOut): string[] =>
  [
    visit.start ? `${dayName(visit.start)} ${clockTime(visit.start)}` : 'not placed',
    visit.technician ?? 'nobody yet',
    visit.crew > 1 ? `crew of ${visit.crew}` : '',
    visit.duration_seconds ? length(visit.duration_seconds) : 'length unknown',
    visit.promise ? `promised ${window_(visit.promise)}` : '',
    visit.due ? `due ${stamp(visit.due)}` : '',
    visit.standby ? 'on standby' : '',
  ].filter(Boolean);

function SplitOrRemove({ order, visit }: Omit<Props, 'canChange'>) {
  const remove = useRemoveVisit(order.id);
  const spread = useSpread(order.id);
  const [days, setDays] = useState<string | null>(null);
  const failed = (error: unknown) => toast.error(sentenceOf(error));
  const seen = { visitId: visit.id, version: order.version };
  const split = (event: FormEvent) => {
    event.preventDefault();
    spread.mutate({ ...seen, days: Number(days) }, { onSuccess: () => setDays(null), onError: failed });
  };
  return (
    <span className="flex items-center gap-1">
      {days === null ? (
        <Button rank="quiet" onClick={() => setDays('2')}>
          Over several days
        </Button>
      ) : (
        <form className="flex items-center gap-1" onSubmit={split}>
          <input
            autoFocus
            aria-label="Over how many days"
            className="w-12 rounded-sm border border-hairline bg-sheet px-1 py-1"
            value={days}
            onChange={(event) => setDays(event.target.value)}
          />
          <Button type="submit">days</Button>
        </form>
      )}
      {order.visits.length > 1 && (
        <Button
          rank="quiet"
          aria-label={`Remove ${visit.label}`}
          onClick={() => remove.mutate(seen, { onError: failed })}
        >
          ✕
        </Button>
      )}
    </span>
  );
}

const FIVE = 17 * 60;

function VisitForm({
  orderId,
  visit,
  onDone,
}: {
  orderId: number;
  visit: SchemaOrderVisitOut;
  onDone: () => void;
}) {
  const dueDay = visit.due === null ? '' : isoDay(visit.due);
  const [title, setTitle] = useState(visit.part_title);
  const [due, setDue] = useState(dueDay);
  const change = useChangeVisit(orderId);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const { version, duration_seconds, priority, needs, promise, earliest, notes, pinned, worth } = visit;
    change.mutate(
      {
        visitId: visit.id,
        body: {
          ...{ version, duration_seconds, priority, needs, promise, earliest, notes, pinned, worth },
          title,
          due: due === dueDay ? visit.due : due ? moment(due, FIVE) : null,
        },
      },
      { onSuccess: onDone },
    );
  };
  return (
    <form
      onSubmit={submit}
      className="flex w-full flex-wrap items-end gap-2 border-l-2 border-copper pl-2"
      aria-label={`Change ${visit.label}`}
    >
      <TextField
        name="title"
        label="What for"
        autoFocus
        maxLength={120}
        className="min-w-64 flex-1"
        value={title}
        onChange={(event) => setTitle(event.target.value)}
      />
      <DayField name="due" label="Due by the evening of" value={due} onChange={setDue} />
      <Button type="submit" disabled={change.isPending}>
        Keep
      </Button>
      <FormError error={change.error} />
    </form>
  );
}
