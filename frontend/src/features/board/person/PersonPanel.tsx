import { urlOf } from '@/api/client';
import { useQueryClient } from '@tanstack/react-query';
import { Lock, LockOpen } from 'lucide-react';
import { Button } from '@/design/Button';
import { PanelHead } from '@/design/PanelHead';
import { DayLogs } from '@/features/daylogs';
import { Portrait } from '@/features/people';
import { Van } from '@/features/stock';
import { wantedParts, type Board, type BoardVisit, type Lane } from '../model';
import { useUndo } from '@/features/scheduling';
import { refreshSchedule } from '@/features/scheduling';
import { SendButton } from '../sending/SendButton';
import { AboutLane } from './AboutLane';
import { Absences } from './Absences';
import { CalendarLink } from './CalendarLink';
import { useLockDays } from './commands';
import { Directions } from './Directions';
import { Reminders } from './Reminders';

interface Props {
  lane: Lane;
  board: Board;
  day: string;
  visits: BoardVisit[];
  canPlan: boolean;
  /** Visits that fall into an absence: what becomes of them is decided next. */
  onLeft: (visits: BoardVisit[]) => void;
  onVisit: (visit: number) => void;
  onClose: () => void;
}

/** All about a technician and the days shown, beside the board. */
export function PersonPanel({ lane, board, day, visits, canPlan, onLeft, onVisit, onClose }: Props) {
  const client = useQueryClient();
  const undo = useUndo();
  return (
    <section aria-label="Technician" data-testid="person" className="flex min-h-0 flex-1 flex-col">
      <PanelHead
        title={lane.name}
        picture={<Portrait technicianId={lane.technician_id} size={40} />}
        closeLabel="Close the technician"
        onClose={onClose}
      />
      <div className="min-h-0 flex-1 space-y-4 overflow-y-auto p-3">
        <AboutLane lane={lane} />
        <TakeAlong lane={lane} day={day} days={board.days.length} visits={visits} canPlan={canPlan} />
        <Reminders lane={lane} day={day} canPlan={canPlan} />
        <Van
          technicianId={lane.technician_id}
          name={lane.name}
          wanted={wantedParts(visits, lane.technician_id)}
          canPlan={canPlan}
          onChanged={() => refreshSchedule(client)}
          undo={() => undo.mutate()}
        />
        <Absences lane={lane} day={day} visits={visits} canPlan={canPlan} onLeft={onLeft} />
        <Directions who={lane.technician_id} day={day} onVisit={onVisit} />
        <DayLogs technicianId={lane.technician_id} />
      </div>
    </section>
  );
}

interface TakeProps {
  lane: Lane;
  day: string;
  days: number;
  visits: BoardVisit[];
  canPlan: boolean;
}

/** Papers of the day, the calendar's secret link, sending, and locking what is placed. */
function TakeAlong({ lane, day, days, visits, canPlan }: TakeProps) {
  const lock = useLockDays();
  const who = lane.technician_id;
  const unsent = visits.filter((visit) => visit.state === 'placed').length;
  const pinned = visits.length > 0 && visits.every((visit) => visit.pinned);
  return (
    <div className="space-y-2 border-t border-hairline pt-3">
      <p className="flex flex-wrap gap-x-3 gap-y-1 text-sm">
        <Paper path="route-sheet" words="Route sheet (PDF)" day={day} who={who} />
        <Paper path="work-orders" words="Work orders (PDF)" day={day} who={who} />
        {canPlan && <CalendarLink who={who} name={lane.name} />}
      </p>
      {canPlan && visits.length > 0 && (
        <div className="flex flex-wrap gap-2">
          <SendButton count={unsent} day={day} days={days} who={who} />
          <Button
            icon={pinned ? <LockOpen size={14} /> : <Lock size={14} />}
            disabled={lock.isPending}
            title="What is locked stays where it is, whatever is planned"
            onClick={() => lock.mutate({ day, days, who, pinned: !pinned })}
          >
            {pinned ? 'Unlock all' : `Lock all ${visits.length}`}
          </Button>
        </div>
      )}
    </div>
  );
}

interface PaperProps {
  path: 'route-sheet' | 'work-orders';
  words: string;
  day: string;
  who: number;
}

const Paper = ({ path, words, day, who }: PaperProps) => (
  <a
    className="underline"
    target="_blank"
    rel="noreferrer"
    href={urlOf(`/api/v1/board/${path}`, {}, { day, technician_id: who })}
  >
    {words}
  </a>
);
