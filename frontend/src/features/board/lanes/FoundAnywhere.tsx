import { useQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import { api, data } from '@/api/client';
import { CommandGroup, CommandItem, holds, useSettledText } from '@/design/CommandDialog';
import { may, useSession } from '@/features/people';
import { PLACES } from '@/shared/places';
import { dayName } from '@/shared/time';

export const LEAST_LETTERS = 2;
export const SHOWN = 6;

interface Props {
  /** What is typed, while the field is open. */
  text: string;
  open: boolean;
  onVisit: (visit: { id: number; order_id: number }) => void;
  /** Closes the field, then does it. */
  then: (run: () => void) => () => void;
  /** What can be done where one is; it comes first. */
  children?: ReactNode;
}

/** What is found from wherever one is: places to go to, visits, customers. What has to be asked for comes below what is
 *  known at once, so that an answer that arrives late does not move what is marked. */
export function FoundAnywhere({ text, open, onVisit, then, children }: Props) {
  const navigate = useNavigate();
  const session = useSession();
  const settled = useSettledText(text);
  // What was found for other words than those that stand there is not offered: Enter would take it.
  const asked = open && settled.length >= LEAST_LETTERS && settled === text.trim();
  const customers = useQuery({
    queryKey: ['customers', 'find', settled],
    enabled: asked && may(session, 'see_customers'),
    queryFn: () => data(api.GET('/api/v1/customers', { params: { query: { text: settled } } })),
  });
  const visits = useQuery({
    queryKey: ['schedule', 'find', settled],
    enabled: asked && may(session, 'see_board'),
    queryFn: () => data(api.GET('/api/v1/visits', { params: { query: { text: settled } } })),
  });
  return (
    <>
      {children}
      <CommandGroup heading="Go to">
        {PLACES.filter((place) => may(session, place.action) && holds(place.words, text)).map((place) => (
          <CommandItem
            key={place.to}
            value={`place ${place.to}`}
            onSelect={then(() => void navigate({ to: place.to }))}
          >
            {place.words}
          </CommandItem>
        ))}
      </CommandGroup>
      <CommandGroup heading="Visits">
        {((asked && visits.data) || []).slice(0, SHOWN).map((row) => (
          <CommandItem key={row.id} value={`visit ${row.id}`} onSelect={then(() => onVisit(row))}>
            <span className="figures">{row.number}</span> {row.title} · {row.site}
            <span className="ml-auto pl-2 text-ink-soft">
              {row.start === null ? 'no place' : dayName(row.start)}
            </span>
          </CommandItem>
        ))}
      </CommandGroup>
      <CommandGroup heading="Customers">
        {((asked && customers.data) || []).slice(0, SHOWN).map(({ customer, site }) => (
          <CommandItem
            key={`${customer.id} ${site?.id ?? ''}`}
            value={`customer ${customer.id} ${site?.id ?? ''}`}
            onSelect={then(
              () =>
                void navigate({ to: '/customers/$customerId', params: { customerId: String(customer.id) } }),
            )}
          >
            {customer.name} <span className="text-ink-soft">{site?.name}</span>
          </CommandItem>
        ))}
      </CommandGroup>
    </>
  );
}
