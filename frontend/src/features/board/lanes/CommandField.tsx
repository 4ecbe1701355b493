import { useQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { Command } from 'cmdk';
import { Children, useEffect, useState, type ReactNode } from 'react';
import { api, data } from '@/api/client';
import { dayName, isoDay, moment, parseDay } from '@/shared/time';
import { serverNow } from '@/shared/clock';
import { headsQuery } from '../queries';

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

const LEAST = 2;
const SHOWN = 6;
/** Said of somebody who is not at work today. */
const ABSENT = /(?:^|\s)(?:sick|ill|absent|absence|off)(?=\s|$)/i;

/** One field for everything: days, technicians, orders, customers, and whatever can be done on the board. */
export function CommandField({ open, onOpenChange, acts, onDay, onTechnician, onAbsent, onVisit }: Props) {
  const [text, setText] = useState('');
  const navigate = useNavigate();
  const settled = useSettledText(text);
  const heads = useQuery(headsQuery).data ?? [];
  const asked = open && settled.length >= LEAST;
  const customers = useQuery({
    queryKey: ['customers', 'find', settled],
    enabled: asked,
    queryFn: () => data(api.GET('/api/v1/customers', { params: { query: { text: settled } } })),
  });
  const backlog = useQuery({
    queryKey: ['schedule', 'find', settled],
    enabled: asked,
    queryFn: () => data(api.GET('/api/v1/board/visits', { params: { query: { text: settled } } })),
  });
  const close = () => {
    onOpenChange(false);
    setText('');
  };
  const then = (run: () => void) => () => {
    close();
    run();
  };
  const holds = (words: string, typed = text) =>
    typed
      .toLowerCase()
      .split(/\s+/)
      .every((word) => words.toLowerCase().includes(word));
  const day = parseDay(text, isoDay(serverNow()));
  const who = text.replace(ABSENT, ' ').trim();
  return (
    <Command.Dialog
      open={open}
      onOpenChange={(value) => (value ? onOpenChange(true) : close())}
      label="Find or do anything"
      shouldFilter={false}
      loop
      overlayClassName="fixed inset-0 z-40 bg-ink/20"
      contentClassName="fixed top-24 left-1/2 z-50 w-[560px] max-w-[95vw] -translate-x-1/2 rounded-sm border border-ink bg-sheet"
    >
      <Command.Input
        value={text}
        onValueChange={setText}
        placeholder="Order, customer, technician, day, or what to do"
        className="w-full border-b border-hairline bg-transparent px-3 py-2.5 text-base outline-none"
      />
      <Command.List className="command-list max-h-[60vh] overflow-y-auto p-1 text-sm">
        <Command.Empty className="p-3 text-ink-soft">Nothing is called that.</Command.Empty>
        {day && (
          <Item value={`day ${day}`} onSelect={then(() => onDay(day))}>
            Go to {dayName(moment(day, 720))} <span className="text-ink-soft">{day}</span>
          </Item>
        )}
        <Group heading="Technicians">
          {heads
            .filter((head) => text.length >= LEAST && holds(head.name))
            .slice(0, SHOWN)
            .map((head) => (
              <Item
                key={head.technician_id}
                value={`technician ${head.technician_id}`}
                onSelect={then(() => onTechnician(head.technician_id))}
              >
                {head.name} <span className="text-ink-soft">{head.depot}</span>
              </Item>
            ))}
        </Group>
        {onAbsent && ABSENT.test(text) && (
          <Group heading="Who is absent?">
            {heads
              .filter((head) => holds(head.name, who))
              .map((head) => (
                <Item
                  key={head.technician_id}
                  value={`absent ${head.technician_id}`}
                  onSelect={then(() => onAbsent(head.technician_id))}
                >
                  {head.name} is absent… <span className="text-ink-soft">{head.depot}</span>
                </Item>
              ))}
          </Group>
        )}
        <Group heading="Visits">
          {(backlog.data ?? []).slice(0, SHOWN).map((row) => (
            <Item key={row.id} value={`visit ${row.id}`} onSelect={then(() => onVisit(row.id))}>
              <span className="figures">{row.number}</span> {row.title} · {row.site}
              <span className="ml-auto pl-2 text-ink-soft">
                {row.start === null ? 'no place' : dayName(row.start)}
              </span>
            </Item>
          ))}
        </Group>
        <Group heading="Customers">
          {(customers.data ?? []).slice(0, SHOWN).map((hit) => (
            <Item
              key={`${hit.customer.id} ${hit.site?.id ?? ''}`}
              value={`customer ${hit.customer.id} ${hit.site?.id ?? ''}`}
              onSelect={then(
                () =>
                  void navigate({
                    to: '/customers/$customerId',
                    params: { customerId: String(hit.customer.id) },
                  }),
              )}
            >
              {hit.customer.name} <span className="text-ink-soft">{hit.site?.name}</span>
            </Item>
          ))}
        </Group>
        <Group heading="On the board">
          {acts
            .filter((act) => holds(act.words))
            .map((act) => (
              <Item key={act.words} value={`act ${act.words}`} onSelect={then(act.run)}>
                {act.words}
                {act.keys && <kbd className="ml-auto pl-2 text-ink-soft">{act.keys}</kbd>}
              </Item>
            ))}
        </Group>
      </Command.List>
    </Command.Dialog>
  );
}

function Group({ heading, children }: { heading: string; children: ReactNode }) {
  if (Children.count(children) === 0) return null;
  return <Command.Group heading={heading}>{children}</Command.Group>;
}

function Item({ value, onSelect, children }: { value: string; onSelect: () => void; children: ReactNode }) {
  return (
    <Command.Item
      value={value}
      onSelect={onSelect}
      className="flex cursor-pointer items-baseline gap-1.5 rounded-sm px-2 py-1.5 data-[selected=true]:bg-copper-wash"
    >
      {children}
    </Command.Item>
  );
}

function useSettledText(text: string): string {
  const [settled, setSettled] = useState('');
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text.trim()), 120);
    return () => clearTimeout(timer);
  }, [text]);
  return settled;
}
