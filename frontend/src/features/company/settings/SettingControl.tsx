import type { ReactNode } from 'react';
import type { SchemaSettingOut } from '@/api/types';
import { fillIn } from '@/shared/templates';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const BOX = 'w-full rounded-sm border border-hairline bg-sheet px-2 py-1.5';

interface Props {
  row: SchemaSettingOut;
  value: unknown;
  onChange: (value: unknown) => void;
}

/** The field in which a setting of its kind is changed. */
export function SettingControl(props: Props) {
  const Control = CONTROLS[props.row.kind] ?? Line;
  return <Control {...props} />;
}

const CONTROLS: Partial<Record<SchemaSettingOut['kind'], (props: Props) => ReactNode>> = {
  yes_no: YesNo,
  number: Amount,
  week: Week,
  choices: Choices,
  choice: Choice,
  list: Lines,
  windows: Lines,
  long_text: LongText,
};

function YesNo({ row, value, onChange }: Props) {
  return (
    <input
      id={row.key}
      type="checkbox"
      checked={Boolean(value)}
      onChange={(event) => onChange(event.target.checked)}
    />
  );
}

function Amount({ row, value, onChange }: Props) {
  return (
    <span className="flex items-center gap-2">
      <input
        id={row.key}
        inputMode="numeric"
        className={`${BOX} figures w-24!`}
        value={String(value)}
        onChange={(event) => {
          const typed = event.target.value.trim();
          onChange(/^\d+$/.test(typed) ? Number(typed) : typed);
        }}
      />
      {row.unit}
    </span>
  );
}

function Week({ row, value, onChange }: Props) {
  const week = value as string[];
  return (
    <div id={row.key} className="space-y-1">
      {DAYS.map((day, index) => (
        <label key={day} className="grid grid-cols-[6rem_1fr] items-center">
          {day}
          <input
            className={BOX}
            placeholder="closed"
            value={week[index] ?? ''}
            onChange={({ target }) => onChange(week.map((span, at) => (at === index ? target.value : span)))}
          />
        </label>
      ))}
    </div>
  );
}

function Choice({ row, value, onChange }: Props) {
  return (
    <select
      id={row.key}
      className={BOX}
      value={String(value)}
      onChange={(event) => onChange(event.target.value)}
    >
      {row.choices.map((choice) => (
        <option key={choice}>{choice}</option>
      ))}
    </select>
  );
}

function Choices({ row, value, onChange }: Props) {
  const chosen = value as string[];
  return (
    <div id={row.key} className="flex flex-wrap gap-3">
      {row.choices.map((choice) => (
        <label key={choice} className="flex items-center gap-1">
          <input
            type="checkbox"
            checked={chosen.includes(choice)}
            onChange={({ target }) =>
              onChange(target.checked ? [...chosen, choice] : chosen.filter((other) => other !== choice))
            }
          />
          {choice}
        </label>
      ))}
    </div>
  );
}

function Lines({ row, value, onChange }: Props) {
  const lines = value as string[];
  return (
    <textarea
      id={row.key}
      rows={Math.min(8, lines.length + 1)}
      aria-description="one per line"
      className={BOX}
      value={lines.join('\n')}
      onChange={(event) => onChange(event.target.value.split('\n'))}
      onBlur={() => onChange(lines.map((line) => line.trim()).filter(Boolean))}
    />
  );
}

function Line({ row, value, onChange }: Props) {
  return (
    <>
      <input
        id={row.key}
        className={BOX}
        value={String(value)}
        onChange={(event) => onChange(event.target.value)}
      />
      <Sample row={row} text={String(value)} />
    </>
  );
}

function LongText({ row, value, onChange }: Props) {
  return (
    <>
      <textarea
        id={row.key}
        rows={3}
        className={BOX}
        value={String(value)}
        onChange={(event) => onChange(event.target.value)}
      />
      <Sample row={row} text={String(value)} />
    </>
  );
}

/** How a text reads once its words in braces are filled in. */
function Sample({ row, text }: { row: SchemaSettingOut; text: string }) {
  if (row.words.length === 0) return null;
  return (
    <p className="text-xs text-ink-soft">
      Reads: <q>{fillIn(text, SAMPLE)}</q>
      <span className="block">Words: {row.words.map((word) => `{${word}}`).join(' ')}</span>
    </p>
  );
}

const SAMPLE: Record<string, string> = {
  company: 'Hallam & Reyne Lift and Door',
  customer: 'Varn Ferries',
  order: 'W-1042',
  request: 'R-1017',
  site: 'Ferry Terminal',
  window: 'on Tue 24 Nov between 08:00 and 10:00',
  technician: 'Ivor Larkin',
  job: 'Noisy door',
  reason: 'the part has not come',
  number: '1042',
  year: '2026',
};
