import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaOfficeReminderOut } from '@/api/types';
import { useFollowing } from '@/shared/following';

const KEY = ['reminders'] as const;

/** What a reminder is about. */
export interface About {
  kind: 'order' | 'quote';
  id: number;
}

export const useRemindersOfOrder = (id: number) =>
  useQuery({
    queryKey: [...KEY, 'order', id],
    queryFn: () =>
      data(api.GET('/api/v1/office-reminders/of/order/{order_id}', { params: { path: { order_id: id } } })),
  });

/** What anybody is to think of on some days, and has not done. */
export function useRemindersOfDays(first: string, last: string) {
  useFollowing(KEY, ['reminder']);
  return useQuery({
    queryKey: [...KEY, 'days', first, last],
    queryFn: () =>
      data(api.GET('/api/v1/office-reminders', { params: { query: { whose: 'everybody', first, last } } })),
  });
}

/** Who can be reminded. */
export const useOfficePeople = () =>
  useQuery({
    queryKey: [...KEY, 'people'],
    queryFn: () => data(api.GET('/api/v1/office-reminders/people')),
    staleTime: 600_000,
  });

function useForget() {
  const client = useQueryClient();
  return () => {
    void client.invalidateQueries({ queryKey: KEY });
    void client.invalidateQueries({ queryKey: ['quotes'] });
    void client.invalidateQueries({ queryKey: ['attention'] });
  };
}

export function useRemind({ kind, id }: About) {
  return useMutation({
    mutationFn: (body: { text: string; at: number; account_id: number | null }) =>
      kind === 'quote'
        ? data(api.POST('/api/v1/quotes/{quote_id}/reminders', { params: { path: { quote_id: id } }, body }))
        : data(api.POST('/api/v1/office-reminders', { body: { ...body, about: 'order', about_id: id } })),
    onSettled: useForget(),
  });
}

export function useSettleReminder() {
  return useMutation({
    mutationFn: ({ row, done }: { row: SchemaOfficeReminderOut; done: boolean }) =>
      data(
        api.PUT('/api/v1/office-reminders/{reminder_id}', {
          params: { path: { reminder_id: row.id } },
          body: { version: row.version, at: row.at, text: row.text, done },
        }),
      ),
    onSettled: useForget(),
  });
}
