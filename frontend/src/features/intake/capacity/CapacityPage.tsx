import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaOutlookOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { useSkills } from '@/features/people';
import { serverNow } from '@/shared/clock';
import { addDays, dayName, isoDay, moment } from '@/shared/time';
import { useCapacity } from '../queries';

const DAYS = 10;

/** Days by areas: hours free against hours promised and expected, before anything is sold. */
export function CapacityPage() {
  const today = isoDay(serverNow());
  const [first, setFirst] = useState(today);
  const [skill, setSkill] = useState('');
  const skills = useSkills();
  const outlook = useCapacity(first, DAYS, skill);
  const rows = outlook.data ?? [];
  const days = rows[0]?.days ?? [];
  return (
    <div className="h-full overflow-auto p-4">
      <header className="mb-2 flex flex-wrap items-center gap-2">
        <h1 className="mr-2 text-lg font-semibold">Capacity outlook</h1>
        <Button onClick={() => setFirst(addDays(first, -7))}>A week back</Button>
        <Button onClick={() => setFirst(today)}>From today</Button>
        <Button onClick={() => setFirst(addDays(first, 7))}>A week on</Button>
        <label className="flex items-center gap-1.5 text-sm">
          Skill
          <select
            className="rounded-sm border border-hairline bg-sheet px-2 py-1.5"
            value={skill}
            onChange={(event) => setSkill(event.target.value)}
          >
            <option value="">any</option>
            {(skills.data ?? []).map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        <p className="text-sm text-ink-soft">
          Hours of those who work in the area{skill ? ` and have ${skill}` : ''}. Somebody who works in
          several areas counts in each.
        </p>
      </header>
      {outlook.isError && <Notice tone="bad">{sentenceOf(outlook.error)}</Notice>}
      {outlook.isPending && <p className="text-ink-soft">Adding up…</p>}
      <table className="border-collapse text-sm" aria-label="Hours by area and day">
        <thead>
          <tr>
            <th className="sticky left-0 bg-paper pr-3 text-left">Area</th>
            {days.map((cell) => (
              <th key={cell.day} className="px-2 pb-1 text-left font-semibold">
                {dayName(moment(cell.day, 720))}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.area} className="border-t border-hairline align-top">
              <th className="sticky left-0 bg-paper py-1 pr-3 text-left font-semibold">{row.area}</th>
              {row.days.map((cell) => (
                <Cell key={cell.day} cell={cell} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-3 flex flex-wrap gap-4 text-sm text-ink-soft">
        <span>
          <b className="figures text-ink">12.5</b> hours left to sell: free, less promised and expected
        </span>
        <span>− promised without a technician</span>
        <span>~ expected at short notice, from the last twelve weeks</span>
        <span>
          <b className="text-warn">▲</b> under two hours left
        </span>
        <span>
          <b className="text-bad">■</b> more promised than there are hands
        </span>
      </p>
    </div>
  );
}

function Cell({ cell }: { cell: SchemaOutlookOut }) {
  if (cell.shifts === 0) return <td className="px-2 py-1 text-ink-soft">nobody</td>;
  const left = cell.left / 3600;
  const tone = left < 0 ? 'text-bad' : left < 2 ? 'text-warn' : '';
  const share = Math.min(1, Math.max(0, 1 - cell.left / cell.shifts));
  return (
    <td
      className="min-w-24 px-2 py-1"
      title={`${hours(cell.shifts)} of work, ${hours(cell.shifts - cell.free)} taken, ${hours(cell.promised)} promised without a technician, ${hours(cell.expected)} expected`}
    >
      <span className={`figures font-semibold ${tone}`}>
        {left < 0 ? '■ ' : left < 2 ? '▲ ' : ''}
        {left.toFixed(1)}
      </span>
      <span className="figures block text-xs text-ink-soft">
        {cell.promised > 0 ? `−${hours(cell.promised)} ` : ''}
        {cell.expected > 0 ? `~${hours(cell.expected)}` : ''}
      </span>
      <span aria-hidden className="block h-1 w-full bg-wash">
        <span className="block h-1 bg-ink-soft" style={{ width: `${100 * share}%` }} />
      </span>
    </td>
  );
}

const hours = (seconds: number) => (seconds / 3600).toFixed(1);
