import { Button } from '@/design/Button';
import { TimeField } from '@/design/TimeField';
import { addDays, dayName, moment } from '@/shared/time';
import { DAY_OFF, MOST_WEEKS, WEEKDAYS, wordsOf, type DayRow } from './week';

interface TurnProps {
  weeks: DayRow[][];
  /** The day from which they hold. */
  from: string;
  shown: number;
  onShow: (week: number) => void;
  onChange: (weeks: DayRow[][]) => void;
}

/** Which of the weeks in turn is edited; the first one is the week in which they begin. */
export function WeeksInTurn({ weeks, from, shown, onShow, onChange }: TurnProps) {
  const add = () => {
    onChange([...weeks, weeks[shown]!]);
    onShow(weeks.length);
  };
  const remove = () => {
    onChange(weeks.filter((_, at) => at !== shown));
    onShow(Math.max(0, shown - 1));
  };
  return (
    <div className="flex flex-wrap items-center gap-2 text-sm" role="group" aria-label="Weeks in turn">
      {weeks.length === 1 ? (
        <span className="text-ink-soft">The same every week.</span>
      ) : (
        weeks.map((_, at) => (
          <button
            key={at}
            type="button"
            aria-pressed={at === shown}
            className={`border-b-2 px-1 pb-0.5 ${at === shown ? 'border-copper font-semibold' : 'border-transparent text-ink-soft'}`}
            onClick={() => onShow(at)}
          >
            Week {at + 1}
            {from && <span className="font-normal text-ink-soft">, {firstDay(from, at)}</span>}
          </button>
        ))
      )}
      {weeks.length < MOST_WEEKS && (
        <Button rank="quiet" onClick={add}>
          {weeks.length === 1 ? 'Another week in turn' : 'One more week'}
        </Button>
      )}
      {weeks.length > 1 && (
        <Button rank="quiet" onClick={remove}>
          Remove week {shown + 1}
        </Button>
      )}
    </div>
  );
}

/** From which day a week in turn holds first: weeks begin on Monday. */
function firstDay(from: string, week: number): string {
  const weekday = (new Date(`${from}T12:00:00Z`).getUTCDay() + 6) % 7;
  return dayName(moment(week === 0 ? from : addDays(from, 7 * week - weekday), 720));
}

const COLUMNS: { label: string; field: keyof DayRow }[] = [
  { label: 'From', field: 'start' },
  { label: 'To', field: 'end' },
  { label: 'Gap from', field: 'gapStart' },
  { label: 'Gap to', field: 'gapEnd' },
  { label: 'On call until', field: 'onCall' },
];

/** A week's days. A day on call only has no end of hours. */
export function DaysOfWeek({ rows, onChange }: { rows: DayRow[]; onChange: (rows: DayRow[]) => void }) {
  const set = (weekday: number, change: Partial<DayRow>) =>
    onChange(rows.map((row, at) => (at === weekday ? { ...row, ...change } : row)));
  const first = rows[0]!;
  return (
    <div className="space-y-1">
      {rows.map((row, weekday) => (
        <div
          key={WEEKDAYS[weekday]}
          role="group"
          aria-label={WEEKDAYS[weekday]}
          className="grid grid-cols-[2.5rem_repeat(5,5.5rem)_1fr] items-end gap-2"
        >
          <b className="pb-1.5 text-sm">{WEEKDAYS[weekday]}</b>
          {COLUMNS.map(({ label, field }) => (
            <TimeField
              key={field}
              label={label}
              quiet={weekday > 0}
              placeholder=""
              value={row[field]}
              onChange={(value) => set(weekday, { [field]: value })}
            />
          ))}
          <span className="pb-1.5 text-sm text-ink-soft">
            {weekday === 0 && first.start !== null ? (
              <button
                type="button"
                className="underline"
                onClick={() => onChange(rows.map((old, at) => (at < 5 ? first : old)))}
              >
                the same until Friday
              </button>
            ) : (
              wordsOf(row)
            )}
            {row.start !== null && weekday > 0 && (
              <button
                type="button"
                className="ml-2 underline"
                aria-label={`No shift on ${WEEKDAYS[weekday]}`}
                onClick={() => set(weekday, DAY_OFF)}
              >
                clear
              </button>
            )}
          </span>
        </div>
      ))}
    </div>
  );
}
