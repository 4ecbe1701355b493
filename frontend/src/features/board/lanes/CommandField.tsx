import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { CommandDialog, CommandGroup, CommandItem, holds } from '@/design/CommandDialog';
import { serverNow } from '@/shared/clock';
import { dayName, isoDay, moment, parseDay } from '@/shared/time';
import { headsQuery } from '../queries';
import { FoundAnywhere, LEAST_LETTERS, SHOWN } from './FoundAnywhere';

export interface CommandAct {
  words: string;
  keys?: string;
  run: () => void;
}

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  acts: CommandAct[];
  onDay: (day: string) => void;
  onTechnician: (id: number) => void;
  /** Left out for whoever may not note an absence. */
  onAbsent?: (id: number) => void;
  onVisit: (id: number) => void;
}

/** Said of somebody who is not at work today. */
const ABSENT = /(?:^|\s)(?:sick|ill|absent|absence|off)(?=\s|$)/i;

/** One field for everything: days, technicians, orders, customers, places, and whatever can be done on the board. */
export function CommandField({ open, onOpenChange, acts, onDay, onTechnician, onAbsent, onVisit }: Props) {
  const [text, setText] = useState('');
  const heads = useQuery(headsQuery).data ?? [];
  const close = () => {
    onOpenChange(false);
    setText('');
  };
  const then = (run: () => void) => () => {
    close();
    run();
  };
  const day = parseDay(text, isoDay(serverNow()));
  return (
    <CommandDialog
      open={open}
      onOpenChange={(value) => (value ? onOpenChange(true) : close())}
      text={text}
      onType={setText}
      placeholder="Order, customer, technician, day, or what to do"
    >
      {day && (
        <CommandItem value={`day ${day}`} onSelect={then(() => onDay(day))}>
          Go to {dayName(moment(day, 720))} <span className="text-ink-soft">{day}</span>
        </CommandItem>
      )}
      <CommandGroup heading="Technicians">
        {heads
          .filter((head) => text.length >= LEAST_LETTERS && holds(head.name, text))
          .slice(0, SHOWN)
          .map((head) => (
            <CommandItem
              key={head.technician_id}
              value={`technician ${head.technician_id}`}
              onSelect={then(() => onTechnician(head.technician_id))}
            >
              {head.name} <span className="text-ink-soft">{head.depot}</span>
            </CommandItem>
          ))}
      </CommandGroup>
      {onAbsent && ABSENT.test(text) && (
        <Absent heads={heads} text={text} onAbsent={(id) => then(() => onAbsent(id))()} />
      )}
      <FoundAnywhere text={text} open={open} onVisit={(visit) => onVisit(visit.id)} then={then}>
        <CommandGroup heading="On the board">
          {acts
            .filter((act) => holds(act.words, text))
            .map((act) => (
              <CommandItem key={act.words} value={`act ${act.words}`} onSelect={then(act.run)}>
                {act.words}
                {act.keys && <kbd className="ml-auto pl-2 text-ink-soft">{act.keys}</kbd>}
              </CommandItem>
            ))}
        </CommandGroup>
      </FoundAnywhere>
    </CommandDialog>
  );
}

interface AbsentProps {
  heads: { technician_id: number; name: string; depot: string }[];
  text: string;
  onAbsent: (id: number) => void;
}

/** Somebody is said not to be at work: who? */
function Absent({ heads, text, onAbsent }: AbsentProps) {
  const who = text.replace(ABSENT, ' ').trim();
  return (
    <CommandGroup heading="Who is absent?">
      {heads
        .filter((head) => holds(head.name, who))
        .map((head) => (
          <CommandItem
            key={head.technician_id}
            value={`absent ${head.technician_id}`}
            onSelect={() => onAbsent(head.technician_id)}
          >
            {head.name} is absent… <span className="text-ink-soft">{head.depot}</span>
          </CommandItem>
        ))}
    </CommandGroup>
  );
}
