// What is kept for minutes grows old also while the page that shows it is not open, and so nobody there hears of it.

import { useQueryClient, type QueryKey } from '@tanstack/react-query';
import { useEffect } from 'react';
import { onChange } from '@/shared/live';

/** What a change of a topic makes old. Of open pages it is fetched anew; the others fetch when they are opened. */
const MADE_OLD: Record<string, QueryKey[]> = {
  technician: [
    ['lanes'],
    ['technicians'],
    ['technician'],
    ['crews'],
    ['company'],
    ['schedule'],
    ['appointments'],
  ],
  account: [['accounts'], ['technicians']],
  archive: [['archives']],
  region: [['region']],
  company: [['company'], ['lanes'], ['technicians'], ['appointments']],
  catalogue: [['catalogue']],
  stock: [['stock'], ['supply'], ['schedule']],
  names: [['skills'], ['certificates'], ['vehicles'], ['tags'], ['lanes']],
};

/** Open pages hear of these themselves, many at once as one; what is not open is only marked. */
const MARKED: Record<string, QueryKey[]> = {
  visit: [['schedule'], ['orders'], ['appointments'], ['lanes']],
  request: [['intake'], ['schedule'], ['orders']],
  customer: [['customers'], ['orders'], ['schedule']],
  message: [['messages']],
  quote: [['quotes']],
  reminder: [['reminders'], ['quotes']],
  pricing: [['pricing'], ['figures']],
};

/** In the frame, so that it hears on every page. */
export function useFresh() {
  const client = useQueryClient();
  useEffect(() => {
    // The stream says so when it begins, too: then everything has just been fetched.
    let begun = false;
    return onChange(({ topic }) => {
      for (const queryKey of MADE_OLD[topic] ?? []) void client.invalidateQueries({ queryKey });
      for (const queryKey of MARKED[topic] ?? [])
        void client.invalidateQueries({ queryKey, type: 'inactive', refetchType: 'none' });
      if (topic === 'resync' && begun)
        void client.invalidateQueries({ type: 'inactive', refetchType: 'none' });
      begun = true;
    });
  }, [client]);
}
