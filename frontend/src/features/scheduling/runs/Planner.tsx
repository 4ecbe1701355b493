import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Play, Square } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaRunDetailOut, SchemaRunIn } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { PanelHead } from '@/design/PanelHead';
import { ShowMore } from '@/design/ShowMore';
import { useCompany } from '@/features/company';
import { rowsOf } from '@/shared/pages';
import { dayName, moment, stamp } from '@/shared/time';
import type { Choice, Shown, Wanted } from '../model';
import { playbooksQuery, runQuery, runsQuery } from '../queries';
import { useStartRun, useStopRun } from './commands';
import { ProposalView } from './ProposalView';

type Kind = SchemaRunIn['kind'];

const KINDS: { kind: Kind; words: string; means: string }[] = [
  {
    kind: 'fill',
    words: 'Fill gaps from the backlog',
    means: 'What is placed stays with its technician; open visits go into the gaps.',
  },
  {
    kind: 'plan',
    words: 'Plan the open work',
    means: 'Open visits are placed; placed ones that nobody was told about may move, at a price.',
  },
  {
    kind: 'repair',
    words: 'Repair the day',
    means:
      'Visits that cannot stay (somebody is ill, a promise would break) get another place; little else moves.',
  },
  {
    kind: 'improve',
    words: 'Put one day in order',
    means: 'Puts one technician’s visits in a better order; no visit is added or removed.',
  },
];

interface Props {
  board: Choice;
  day: string;
  runId: number;
  who: number | undefined;
  /** What is asked for, until another choice is made. */
  wanted: Wanted | undefined;
  /** Only these visits are to be placed. */
  only: number[] | undefined;
  /** Changes that were unticked. */
  left: ReadonlySet<number>;
  onLeft: (left: ReadonlySet<number>) => void;
  onRun: (id: number | undefined) => void;
  onShow: (placement: Shown | null) => void;
  onVisit: (id: number) => void;
}

/** Asking the planner, and reading what it proposes, beside the board. */
export function Planner({
  board,
  day,
  runId,
  who,
  wanted,
  only,
  left,
  onLeft,
  onRun,
  onShow,
  onVisit,
}: Props) {
  return (
    <section aria-label="Planner" data-testid="planner" className="flex min-h-0 flex-1 flex-col">
      <PanelHead title="Planner" closeLabel="Close the planner" onClose={() => onRun(undefined)} />
      <div className="min-h-0 flex-1 space-y-4 overflow-y-auto p-3">
        {runId === 0 ? (
          <Ask
            key={`${who ?? 0} ${wanted} ${only?.join() ?? ''}`}
            board={board}
            day={day}
            who={who}
            wanted={wanted}
            only={only}
            onRun={onRun}
          />
        ) : (
          <Running
            runId={runId}
            left={left}
            onLeft={onLeft}
            onRun={onRun}
            onShow={onShow}
            onVisit={onVisit}
          />
        )}
      </div>
    </section>
  );
}

type AskProps = Pick<Props, 'board' | 'day' | 'who' | 'wanted' | 'only' | 'onRun'>;

function Ask({ board, day, who, wanted, only, onRun }: AskProps) {
  const [asked, setAsked] = useState<Asked>({
    kind: wanted ?? (who ? 'improve' : only ? 'plan' : 'fill'),
    technician: who ?? 0,
    area: 0,
    days: board.days.length,
    seconds: 5,
    playbook: 0,
  });
  const set = (changes: Partial<Asked>) => setAsked((old) => ({ ...old, ...changes }));
  const start = useStartRun();
  const one = asked.kind === 'improve';
  const submit = (event: FormEvent) => {
    event.preventDefault();
    start.mutate({ ...bodyOf(asked), day, visit_ids: only ?? [] }, { onSuccess: (run) => onRun(run.id) });
  };
  return (
    <>
      <form onSubmit={submit} className="space-y-3" aria-label="Ask for a proposal">
        {only && (
          <p className="text-sm">
            <b>{only.length} chosen visits</b> look for a place, or for a better one; nothing else moves.
          </p>
        )}
        <Kinds asked={asked} set={set} />
        <Scope asked={asked} set={set} board={board} />
        <Effort asked={asked} set={set} />
        <Button
          type="submit"
          rank="main"
          icon={<Play size={15} />}
          disabled={start.isPending || (one && asked.technician === 0)}
        >
          Make a proposal
        </Button>
        <p className="text-xs text-ink-soft">Nothing changes until you accept it.</p>
      </form>
      <Earlier onRun={onRun} />
    </>
  );
}

interface Asked {
  kind: Kind;
  /** 0: everybody. */
  technician: number;
  /** 0: every area. */
  area: number;
  days: number;
  seconds: number;
  /** 0: the default one. */
  playbook: number;
}

interface AskedProps {
  asked: Asked;
  set: (changes: Partial<Asked>) => void;
}

const takesBacklog = ({ kind }: Asked) => kind === 'fill' || kind === 'plan';

function bodyOf(asked: Asked) {
  const one = asked.kind === 'improve';
  return {
    kind: asked.kind,
    days: one ? 1 : asked.days,
    area_id: (takesBacklog(asked) && asked.area) || null,
    technician_id: asked.technician || null,
    playbook_id: asked.playbook || null,
    seconds: one ? Math.min(asked.seconds, 2) : asked.seconds,
  };
}

const Kinds = ({ asked, set }: AskedProps) => (
  <fieldset className="space-y-1.5">
    <legend className="mb-1 text-xs font-semibold text-ink-soft">What shall it do?</legend>
    {KINDS.map((row) => (
      <label key={row.kind} className="flex gap-2 text-sm">
        <input
          type="radio"
          name="kind"
          className="mt-1"
          checked={asked.kind === row.kind}
          onChange={() => set({ kind: row.kind })}
        />
        <span>
          <b className="font-semibold">{row.words}</b>
          {asked.kind === row.kind && <span className="block text-ink-soft">{row.means}</span>}
        </span>
      </label>
    ))}
  </fieldset>
);

function Scope({ asked, set, board }: AskedProps & Pick<Props, 'board'>) {
  const areas = useCompany().data?.areas ?? [];
  return (
    <>
      <SelectField
        label="Whose day"
        value={asked.technician}
        onChange={(e) => set({ technician: Number(e.target.value) })}
      >
        <option value={0}>{asked.kind === 'improve' ? 'choose somebody' : 'everybody’s'}</option>
        {board.lanes.map((lane) => (
          <option key={lane.technician_id} value={lane.technician_id}>
            {lane.name}
          </option>
        ))}
      </SelectField>
      {takesBacklog(asked) && (
        <SelectField
          label="What waits in"
          value={asked.area}
          onChange={(e) => set({ area: Number(e.target.value) })}
        >
          <option value={0}>every area</option>
          {areas.map((row) => (
            <option key={row.id} value={row.id}>
              {row.name}
            </option>
          ))}
        </SelectField>
      )}
    </>
  );
}

function Effort({ asked, set }: AskedProps) {
  const playbooks = useQuery(playbooksQuery);
  const one = asked.kind === 'improve';
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <SelectField
          label="From this day, for"
          value={one ? 1 : asked.days}
          disabled={one}
          onChange={(e) => set({ days: Number(e.target.value) })}
        >
          {[1, 2, 3, 5, 7, 14].map((count) => (
            <option key={count} value={count}>
              {count === 1 ? 'this day' : `${count} days`}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Think for"
          value={asked.seconds}
          onChange={(e) => set({ seconds: Number(e.target.value) })}
        >
          {[2, 5, 20, 60].map((count) => (
            <option key={count} value={count}>
              {count} s
            </option>
          ))}
        </SelectField>
      </div>
      <SelectField
        label="Playbook"
        value={asked.playbook}
        onChange={(e) => set({ playbook: Number(e.target.value) })}
      >
        {(playbooks.data?.playbooks ?? []).map((row) => (
          <option key={row.id} value={row.is_default ? 0 : row.id}>
            {row.name}
            {row.is_default ? ' (default)' : ''}
          </option>
        ))}
      </SelectField>
    </>
  );
}

function Earlier({ onRun }: Pick<Props, 'onRun'>) {
  const runs = useInfiniteQuery(runsQuery);
  const rows = rowsOf(runs.data);
  if (rows.length === 0) return null;
  return (
    <section>
      <h3 className="text-xs font-semibold text-ink-soft">Earlier runs</h3>
      <ul className="mt-1 text-sm">
        {rows.map((run) => (
          <li key={run.id}>
            <button
              type="button"
              className="w-full py-0.5 text-left hover:bg-wash"
              onClick={() => onRun(run.id)}
            >
              <time className="text-ink-soft">{stamp(run.asked_at)}</time> {wordsOf(run.kind)},{' '}
              {dayName(moment(run.first_day, 720))}
              {run.accepted_at !== null ? ', accepted' : run.state === 'done' ? '' : `, ${run.state}`}
            </button>
          </li>
        ))}
      </ul>
      <ShowMore pages={runs} />
    </section>
  );
}

const wordsOf = (kind: Kind) => KINDS.find((row) => row.kind === kind)?.words ?? kind;

type RunningProps = Pick<Props, 'runId' | 'left' | 'onLeft' | 'onRun' | 'onShow' | 'onVisit'>;

function Running({ runId, left, onLeft, onRun, onShow, onVisit }: RunningProps) {
  const found = useQuery(runQuery(runId));
  if (found.isError) return <Notice tone="bad">{sentenceOf(found.error)}</Notice>;
  if (!found.data) return <p className="text-ink-soft">Fetching…</p>;
  const run = found.data;
  return (
    <>
      <div className="space-y-1 text-sm">
        <p>
          <b className="font-semibold">{wordsOf(run.kind)}</b>, {dayName(moment(run.first_day, 720))}
          {run.days > 1 && ` and ${run.days - 1} more`}, by “{run.playbook_name}”
        </p>
        <Progress run={run} />
      </div>
      {run.proposal && (
        <ProposalView key={run.id} run={run} left={left} onLeft={onLeft} onShow={onShow} onVisit={onVisit} />
      )}
      <Button onClick={() => onRun(0)}>Ask for another</Button>
    </>
  );
}

function Progress({ run }: { run: SchemaRunDetailOut }) {
  const stop = useStopRun();
  if (run.state === 'failed') return <Notice tone="bad">{run.failure}</Notice>;
  if (run.state === 'queued' || run.state === 'running')
    return (
      <div className="space-y-2" role="status">
        <progress className="w-full accent-copper" value={run.share} max={1} aria-label="Progress" />
        <p className="text-ink-soft">
          {run.state === 'queued'
            ? 'Waiting for the planner…'
            : `${run.iterations.toLocaleString('en')} tries so far`}
        </p>
        <Button icon={<Square size={14} />} disabled={stop.isPending} onClick={() => stop.mutate(run.id)}>
          Stop, keep the best
        </Button>
      </div>
    );
  const made = run.proposal;
  return (
    <p className="text-xs text-ink-soft">
      {run.state === 'stopped' ? 'Stopped' : 'Done'}
      {made &&
        ` after ${made.seconds} s and ${made.iterations.toLocaleString('en')} tries, seed ${made.seed}`}
    </p>
  );
}
