import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaAreaOutlookOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { useSkillName, useSkills } from '@/features/people';
import { serverNow } from '@/shared/clock';
import { addDays, dayName, isoDay, moment } from '@/shared/time';
import { useCapacity } from '../queries';
import { hours } from './hours';
import { OutlookCell } from './OutlookCell';

const DAYS = 10;

/** Days by areas: hours free against hours promised and expected, before anything is sold. */
export function CapacityPage() {
  const today = isoDay(serverNow());
  const [first, setFirst] = useState(today);
  const [skill, setSkill] = useState('');
  const skillName = useSkillName();
  const outlook = useCapacity(first, DAYS, skill);
  const rows = outlook.data ? [outlook.data.total, ...outlook.data.areas] : [];
  const days = rows[0]?.days ?? [];
  return (
    <div className="h-full overflow-auto p-4">
      <header className="mb-2 flex flex-wrap items-center gap-2">
        <h1 className="mr-2 text-lg font-semibold">Capacity outlook</h1>
        <Button onClick={() => setFirst(addDays(first, -7))}>A week back</Button>
        <Button onClick={() => setFirst(today)}>From today</Button>
        <Button onClick={() => setFirst(addDays(first, 7))}>A week on</Button>
        <SkillChoice value={skill} onChange={setSkill} />
        <p className="text-sm text-ink-soft">
          Hours left to sell{skill ? ` of those who have ${skillName(skill)}` : ''}. Somebody who works in
          several areas is shared among them in equal parts.
        </p>
      </header>
      {outlook.isError && <Notice tone="bad">{sentenceOf(outlook.error)}</Notice>}
      {outlook.isPending && <p className="text-ink-soft">Adding up…</p>}
      {rows.length > 0 && (
        <table className="border-collapse text-sm" aria-label="Hours by area and day">
          <Heads days={days} />
          <tbody>
            {rows.map((row) => (
              <tr key={row.area} className="border-t border-hairline align-top">
                <th scope="row" className="sticky left-0 bg-paper py-1 pr-3 text-left font-semibold">
                  {row.area || 'Whole company'}
                </th>
                {row.days.map((cell) => (
                  <OutlookCell key={cell.day} area={row} skill={skill} cell={cell} />
                ))}
                <WaitingCell row={row} skill={skill} />
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Key />
    </div>
  );
}

function SkillChoice({ value, onChange }: { value: string; onChange: (skill: string) => void }) {
  const skills = useSkills();
  return (
    <label className="flex items-center gap-1.5 text-sm">
      Skill
      <select
        className="rounded-sm border border-hairline bg-sheet px-2 py-1.5"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        <option value="">any</option>
        {(skills.data ?? []).map((row) => (
          <option key={row.code} value={row.code}>
            {row.name}
          </option>
        ))}
      </select>
    </label>
  );
}

const Heads = ({ days }: { days: SchemaAreaOutlookOut['days'] }) => (
  <thead>
    <tr>
      <th scope="col" className="sticky left-0 bg-paper pr-3 text-left">
        Area
      </th>
      {days.map((cell) => (
        <th scope="col" key={cell.day} className="px-2 pb-1 text-left font-semibold">
          {dayName(moment(cell.day, 720))}
        </th>
      ))}
      <th scope="col" className="px-2 pb-1 text-left font-semibold">
        Waiting, no promise
      </th>
    </tr>
  </thead>
);

/** Work that nobody was promised a time for: it could be done on any of the days. Opened in the backlog. */
function WaitingCell({ row, skill }: { row: SchemaAreaOutlookOut; skill: string }) {
  if (row.waiting_visits === 0) return <td className="px-2 py-1 text-ink-soft">none</td>;
  const waiting = {
    unpromised: true,
    ...(row.area_id && { area_ids: [row.area_id] }),
    ...(skill && { skill }),
  };
  return (
    <td className="px-2 py-1">
      <Link to="/board" search={{ waiting }} className="underline" title="Shown in the backlog">
        <b className="figures">{hours(row.waiting_seconds)}</b> h in {row.waiting_visits}{' '}
        {row.waiting_visits === 1 ? 'visit' : 'visits'}
      </Link>
    </td>
  );
}

function Key() {
  return (
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
        <b className="text-bad">■</b> more promised than people have time for
      </span>
      <span>Press a figure to see the work behind it.</span>
    </p>
  );
}
