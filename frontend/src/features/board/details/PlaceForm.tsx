import { useState, type FormEvent } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaVerdictOut, SchemaVisitDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { SelectField, TextField } from '@/design/Field';
import { isoDay, minutesOfDay, moment, parseTime, timeText } from '@/shared/time';
import type { Grabbed } from '../lanes/interaction';
import { grab } from '../lanes/useBoardInteraction';
import { usePlace, useUnplace } from '../commands';
import type { Board } from '../model';
import { useFits, useVerdict } from '../queries';

/** Who and when, typed: the same placement as by dragging, on any day. */
export function PlaceForm({ visit, board }: { visit: SchemaVisitDetailOut; board: Board }) {
  const placed = visit.start !== null;
  const base = visit.start ?? visit.promise?.start ?? null;
  const [technicianId, setTechnicianId] = useState(visit.technician_id ?? 0);
  const [day, setDay] = useState(base === null ? board.day : isoDay(base));
  const [because, setBecause] = useState('');
  const [time, setTime] = useState(base === null ? '' : timeText(minutesOfDay(base)));
  const fits = useFits(visit.id, day || board.day);
  const place = usePlace();
  const minutes = parseTime(time, base === null ? undefined : minutesOfDay(base));
  const start = minutes === null || !day ? null : moment(day, minutes);
  const changed =
    start !== null && technicianId > 0 && (start !== visit.start || technicianId !== visit.technician_id);
  const { verdict, error } = useVerdict(visit.id, changed ? { technicianId, start: start } : null);
  const asks = verdict?.reasons.some((reason) => reason.weight === 'asks') ?? false;
  const grabbed = grab(visit);
  // Without a length nothing can be judged: it is asked for when it is placed.
  const refused = verdict?.allowed === false && visit.duration_seconds !== null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (changed && start !== null) place.mutate({ visit: grabbed, technicianId, start, because });
  };
  return (
    <form onSubmit={submit} className="space-y-2 border-t border-hairline pt-3" aria-label="Placement">
      <h3 className="text-xs font-semibold text-ink-soft">{placed ? 'Move it' : 'Place it'}</h3>
      <Who board={board} fits={fits.data} value={technicianId} onChange={setTechnicianId} />
      <div className="grid grid-cols-2 gap-2">
        <DayField label="Day" value={day} onChange={setDay} />
        <TextField
          label="Start"
          value={time}
          placeholder="8, 830, 8:30, +45"
          onChange={(e) => setTime(e.target.value)}
          error={time && minutes === null ? 'Type a time, like 830' : undefined}
        />
      </div>
      {error && <p className="text-sm text-bad">{sentenceOf(error)}</p>}
      {verdict && <Reasons reasons={verdict.reasons} />}
      {asks && (
        <TextField
          label="Why all the same"
          required
          value={because}
          onChange={(e) => setBecause(e.target.value)}
        />
      )}
      <div className="flex gap-2">
        <Button type="submit" disabled={!changed || refused || place.isPending}>
          {placed ? 'Move' : 'Place'}
        </Button>
        {placed && <BackButton visit={grabbed} />}
      </div>
    </form>
  );
}

interface WhoProps {
  board: Board;
  fits: ReadonlyMap<number, string[]> | undefined;
  value: number;
  onChange: (technicianId: number) => void;
}

const Who = ({ board, fits, value, onChange }: WhoProps) => (
  <SelectField label="Technician" value={value} onChange={(e) => onChange(Number(e.target.value))}>
    <option value={0}>nobody</option>
    {board.lanes.map((lane) => (
      <option key={lane.technician_id} value={lane.technician_id}>
        {lane.name}
        {fits?.get(lane.technician_id)?.length ? ` — ${fits.get(lane.technician_id)![0]}` : ''}
      </option>
    ))}
  </SelectField>
);

const TONES = { refuses: 'text-bad', asks: 'text-warn', warns: 'text-warn', good: '', note: '' };

const Reasons = ({ reasons }: Pick<SchemaVerdictOut, 'reasons'>) => (
  <ul className="space-y-0.5 text-sm">
    {reasons.map((reason) => (
      <li key={reason.sentence} className={TONES[reason.weight]}>
        {MARKS[reason.weight]} {reason.sentence}
      </li>
    ))}
  </ul>
);

const MARKS = { refuses: '✕', asks: '?', warns: '!', good: '✓', note: '·' };

function BackButton({ visit }: { visit: Grabbed }) {
  const unplace = useUnplace();
  return (
    <Button rank="quiet" onClick={() => unplace.mutate({ visit })}>
      Back to the backlog
    </Button>
  );
}
