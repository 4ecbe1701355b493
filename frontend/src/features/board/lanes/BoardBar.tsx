import { GoToDay } from './GoToDay';
import { ChevronLeft, ChevronRight, LayoutList, Redo2, Route, Undo2 } from 'lucide-react';
import { Button } from '@/design/Button';
import { addDays, dayName, isoDay, moment } from '@/shared/time';
import { serverNow } from '@/shared/clock';
import { summary, type Board } from '../model';
import { RemindersOfDays } from '@/features/orders';
import { useChanges } from '@/features/scheduling';
import { SPANS, VIEWS, type BoardSearch } from '../search';
import { SendButton } from '../sending/SendButton';
import { DayMenu } from './DayMenu';
import { BrokenCount, TightCount } from './Counts';
import { ViewMenu } from './ViewMenu';

interface Props {
  board: Board;
  day: string;
  search: BoardSearch;
  change: (changes: Partial<BoardSearch>) => void;
  canPlan: boolean;
  stale: boolean;
  onUndo: () => void;
  onRedo: () => void;
  onCrews: () => void;
  onLegend: () => void;
}

const SPAN_WORDS: Record<(typeof SPANS)[number], string> = {
  1: 'Day',
  3: '3 days',
  7: 'Week',
  14: '2 weeks',
};

const VIEW_WORDS: Record<(typeof VIEWS)[number], string> = {
  lanes: 'Lanes',
  both: 'Lanes + map',
  map: 'Map',
  list: 'List',
  month: '5 weeks',
};

/** Which days are shown, what is wrong with them, and what can be done with all of them. */
export function BoardBar(props: Props) {
  const { board, day, search, change, canPlan, stale } = props;
  const counts = summary(board);
  const toVisit = (visit: number) => change({ visit, gap: undefined, person: undefined });
  return (
    <div className="flex h-11 shrink-0 items-center gap-1.5 border-b border-hairline px-2">
      <Days day={day} search={search} change={change} />
      <p className="ml-1 flex items-center gap-2.5 text-sm whitespace-nowrap text-ink-soft" role="status">
        <span>
          <b className="figures text-ink">{counts.visits}</b> visits
        </span>
        <BrokenCount
          board={board}
          onVisit={toVisit}
          onPerson={(person) => change({ person, visit: undefined, gap: undefined })}
        />
        <TightCount board={board} onVisit={toVisit} />
        {stale && <span>fetching…</span>}
      </p>
      <RemindersOfDays first={day} last={addDays(day, board.days.length - 1)} />
      <div className="ml-auto flex items-center gap-1">
        <ViewMenu search={search} change={change} />
        <Button
          rank="quiet"
          icon={<LayoutList size={16} />}
          aria-label="Legend"
          title="Legend  ?"
          onClick={props.onLegend}
        />
        <DayMenu day={day} days={board.days.length} canPlan={canPlan} onCrews={props.onCrews} />
        {canPlan && (
          <>
            <Button
              icon={<Route size={16} />}
              title="Fill, plan, repair, put in order"
              onClick={() => change({ run: 0, visit: undefined, gap: undefined, person: undefined })}
            >
              Planner
            </Button>
            <BackAndForth onUndo={props.onUndo} onRedo={props.onRedo} />
            <SendButton count={counts.unsent} day={day} days={board.days.length} />
          </>
        )}
      </div>
    </div>
  );
}

function Days({ day, search, change }: Pick<Props, 'day' | 'search' | 'change'>) {
  const span = search.span ?? 1;
  const today = isoDay(serverNow());
  const last = addDays(day, span - 1);
  const name = (value: string) => dayName(moment(value, 12 * 60));
  return (
    <>
      <Button
        rank="quiet"
        icon={<ChevronLeft size={16} />}
        aria-label={span === 1 ? 'Day before' : 'Days before'}
        title="Back  ["
        onClick={() => change({ day: addDays(day, -span) })}
      />
      <GoToDay
        words={span === 1 ? name(day) : `${name(day).split(' ').slice(0, 2).join(' ')} – ${name(last)}`}
        onDay={(value) => change({ day: value })}
      />
      <Button
        rank="quiet"
        icon={<ChevronRight size={16} />}
        aria-label={span === 1 ? 'Day after' : 'Days after'}
        title="On  ]"
        onClick={() => change({ day: addDays(day, span) })}
      />
      <Button disabled={day === today} title="Today  T" onClick={() => change({ day: undefined })}>
        Today
      </Button>
      <PickOne
        label="Days shown"
        value={span}
        options={SPANS.map((value) => [value, SPAN_WORDS[value]])}
        onPick={(wanted) => change({ span: wanted === 1 ? undefined : wanted })}
      />
      <PickOne
        label="Shown as"
        value={search.view ?? 'lanes'}
        options={VIEWS.map((value) => [value, VIEW_WORDS[value]])}
        onPick={(wanted) => change({ view: wanted === 'lanes' ? undefined : wanted })}
      />
    </>
  );
}

interface PickProps<Value> {
  label: string;
  value: Value;
  options: [Value, string][];
  onPick: (value: Value) => void;
}

const PickOne = <Value extends string | number>({ label, value, options, onPick }: PickProps<Value>) => (
  <select
    aria-label={label}
    className="h-8 rounded-sm border border-hairline bg-sheet px-1 text-sm"
    value={value}
    onChange={(event) => onPick(options[event.target.selectedIndex]![0])}
  >
    {options.map(([one, words]) => (
      <option key={one} value={one}>
        {words}
      </option>
    ))}
  </select>
);

function BackAndForth({ onUndo, onRedo }: Pick<Props, 'onUndo' | 'onRedo'>) {
  const changes = useChanges(true).data;
  const [undo, redo] = [changes?.undo[0]?.sentence, changes?.redo[0]?.sentence];
  return (
    <>
      <Button
        icon={<Undo2 size={16} />}
        disabled={undo === undefined}
        title={undo ? `Undo: ${undo}  (Ctrl Z)` : 'Nothing to undo'}
        onClick={onUndo}
      >
        Undo
      </Button>
      <Button
        icon={<Redo2 size={16} />}
        aria-label="Redo"
        disabled={redo === undefined}
        title={redo ? `Do again: ${redo}  (Ctrl Shift Z)` : 'Nothing to do again'}
        onClick={onRedo}
      />
    </>
  );
}
