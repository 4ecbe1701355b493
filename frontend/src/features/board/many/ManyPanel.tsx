import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaBulkIn, SchemaBulkOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { SelectField, TextArea, TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { PanelHead } from '@/design/PanelHead';
import { cancellingTextQuery } from '@/features/messages';
import { addDays, isoDay } from '@/shared/time';
import { serverNow } from '@/shared/clock';
import { useBulk } from '../commands';
import type { AnyVisit, Board } from '../model';
import { Spread } from './Spread';
import type { ManyWish } from './wish';

type Kind = SchemaBulkIn['kind'];

const WORDS: Record<Kind, string> = {
  day: 'Move to another day, same technician and time',
  give: 'Give to a technician, at the first times that fit',
  shift: 'Move to earlier or later, or to somebody else',
  unplace: 'Back to the backlog',
  cancel: 'Cancel',
  send: 'Send',
  lock: 'Lock where they are',
  unlock: 'Unlock',
};

interface Props {
  visits: AnyVisit[];
  board: Board;
  /** What was wanted by dropping them somewhere. */
  wish: ManyWish | null;
  onPlan: (visits: number[]) => void;
  /** A planning run was begun: its proposal is read next. */
  onRun: (run: number) => void;
  onClose: () => void;
}

/** What is filled in, and what it asks of the server. */
function useManyForm(visits: AnyVisit[], board: Board, wish: ManyWish | null) {
  const [kind, setKind] = useState<Kind>(wish?.kind ?? 'day');
  const [day, setDay] = useState(() => wish?.day ?? addDays(board.day, 1));
  const [who, setWho] = useState(wish?.who ?? 0);
  const [minutes, setMinutes] = useState(String(wish?.minutes ?? 30));
  const [because, setBecause] = useState('');
  const [ownTell, setTell] = useState<string | null>(null);
  const usual = useQuery({ ...cancellingTextQuery, enabled: kind === 'cancel' });
  const tell = kind === 'cancel' ? (ownTell ?? usual.data?.text ?? '') : '';
  const shift = Number(minutes);
  const ready =
    (kind !== 'give' || who > 0) &&
    (kind !== 'cancel' || because.trim() !== '') &&
    (kind !== 'shift' || (Number.isFinite(shift) && (shift !== 0 || who > 0)));
  const body: SchemaBulkIn = {
    visits: visits.map(({ id, version }) => ({ id, version })),
    kind,
    day: kind === 'day' || (kind === 'give' && wish?.day !== undefined) ? day : null,
    technician_id: (kind === 'give' || kind === 'shift') && who > 0 ? who : null,
    seconds: kind === 'shift' ? Math.round(shift) * 60 : 0,
    // A reason changes nothing about what becomes of them: typing it asks nothing again.
    because: kind === 'cancel' ? 'a preview' : '',
    tell: kind === 'cancel' ? tell.trim() : '',
    preview: true,
  };
  const set = { setKind, setDay, setWho, setMinutes, setBecause, setTell };
  return { kind, day, who, minutes, because, tell, ready, body, ...set };
}

type ManyForm = ReturnType<typeof useManyForm>;

/** The same for several visits: what would become of each is read first; then done, and undone, in one step. */
export function ManyPanel({ visits, board, wish, onPlan, onRun, onClose }: Props) {
  const form = useManyForm(visits, board, wish);
  const { body, because, ready } = form;
  const bulk = useBulk();
  const preview = useQuery({
    queryKey: ['schedule', 'bulk', body],
    enabled: ready,
    queryFn: ({ signal }) => data(api.POST('/api/v1/board/bulk', { body, signal })),
    retry: false,
  });
  const outcomes = preview.data?.outcomes ?? [];
  const asks = outcomes.some((row) => row.asks);
  const count = outcomes.filter((row) => !row.problem || (row.asks && because.trim() !== '')).length;
  const some = preview.data && count < visits.length;
  return (
    <section aria-label="Several visits" className="flex min-h-0 flex-1 flex-col">
      <PanelHead
        title={`${visits.length} visit${visits.length === 1 ? '' : 's'} chosen`}
        closeLabel="Choose none"
        onClose={onClose}
      />
      <form
        className="min-h-0 flex-1 space-y-2 overflow-y-auto p-3"
        onSubmit={(event) => {
          event.preventDefault();
          bulk.mutate({ ...body, because: because.trim(), preview: false }, { onSuccess: onClose });
        }}
      >
        <Wanted form={form} board={board} />
        <Reasons form={form} asks={asks} />
        <div className="flex flex-wrap gap-2">
          <Button
            type="submit"
            rank="main"
            autoFocus={wish !== null}
            disabled={!ready || bulk.isPending || !preview.data || count === 0}
          >
            {some ? `Do it to ${count} of ${visits.length}` : `Do it to all ${visits.length}`}
          </Button>
          <PlanThem visits={visits} onPlan={onPlan} />
        </div>
        <Spread visits={visits} first={addDays(board.day, 1)} onRun={onRun} />
        {preview.isError && <Notice tone="bad">{sentenceOf(preview.error)}</Notice>}
        {ready && preview.isFetching && !preview.data && (
          <p className="text-sm text-ink-soft">Looking what becomes of them…</p>
        )}
        {preview.data && <Consequences outcomes={outcomes} />}
      </form>
    </section>
  );
}

/** The planner is asked about those that can still move. */
function PlanThem({ visits, onPlan }: Pick<Props, 'visits' | 'onPlan'>) {
  const movable = visits.filter((visit) => visit.movable);
  if (movable.length === 0) return null;
  return (
    <Button
      title="Let the planner find places for them; you read its proposal first"
      onClick={() => onPlan(movable.map((visit) => visit.id))}
    >
      Let the planner place {movable.length < visits.length ? `${movable.length} of them` : 'them'}
    </Button>
  );
}

/** What is to become of them. */
function Wanted({ form, board }: { form: ManyForm; board: Board }) {
  const { kind } = form;
  return (
    <>
      <SelectField label="What with them" value={kind} onChange={(e) => form.setKind(e.target.value as Kind)}>
        {Object.entries(WORDS).map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </SelectField>
      {kind === 'day' && (
        <DayField
          label="Day"
          min={isoDay(serverNow())}
          value={form.day}
          onChange={(value) => value && form.setDay(value)}
        />
      )}
      {(kind === 'give' || kind === 'shift') && (
        <SelectField
          label="Technician"
          value={form.who}
          onChange={(e) => form.setWho(Number(e.target.value))}
        >
          <option value={0}>{kind === 'give' ? 'choose…' : 'each its own'}</option>
          {board.lanes.map((lane) => (
            <option key={lane.technician_id} value={lane.technician_id}>
              {lane.name}
            </option>
          ))}
        </SelectField>
      )}
      {kind === 'shift' && (
        <TextField
          label="Minutes later (negative: earlier)"
          inputMode="numeric"
          value={form.minutes}
          onChange={(e) => form.setMinutes(e.target.value)}
        />
      )}
    </>
  );
}

/** Why, and what the customers read. */
function Reasons({ form, asks }: { form: ManyForm; asks: boolean }) {
  const cancels = form.kind === 'cancel';
  return (
    <>
      {(cancels || asks || form.because !== '') && (
        <TextField
          label={cancels ? 'Why they are cancelled, for us' : 'Why all the same'}
          value={form.because}
          onChange={(e) => form.setBecause(e.target.value)}
        />
      )}
      {cancels && (
        <TextArea
          label="What the customers read (empty: they are not told)"
          hint="{site}, {order} and {customer} are filled in for each."
          rows={3}
          maxLength={300}
          value={form.tell}
          onChange={(e) => form.setTell(e.target.value)}
        />
      )}
    </>
  );
}

function Consequences({ outcomes }: { outcomes: SchemaBulkOut['outcomes'] }) {
  const sorted = [...outcomes].sort((a, b) => Number(!a.problem) - Number(!b.problem));
  return (
    <ul aria-label="What becomes of them" className="divide-y divide-hairline text-sm">
      {sorted.map((row) => (
        <li key={row.visit_id} className="py-1">
          <span className="font-semibold">{row.label}</span>{' '}
          <span className={row.asks ? 'text-warn' : row.problem ? 'text-bad' : ''}>
            {row.asks ? 'needs a reason' : row.sentence}
          </span>
          {row.problem && <p className={`text-xs ${row.asks ? 'text-warn' : 'text-bad'}`}>{row.problem}</p>}
          {row.warnings.map((warning) => (
            <p key={warning} className="text-xs text-warn">
              {warning}
            </p>
          ))}
        </li>
      ))}
    </ul>
  );
}
