import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data, sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { dayName, moment } from '@/shared/time';
import { AddHoliday } from './AddHoliday';
import { holidaysKey } from './key';
import { PublicHolidays } from './PublicHolidays';

/** Days on which nobody has a shift. */
export function HolidaysPage() {
  const client = useQueryClient();
  const canChange = may(useSession(), 'change_settings');
  const holidays = useQuery({
    queryKey: holidaysKey,
    queryFn: () => data(api.GET('/api/v1/company/holidays')),
  });
  const remove = useMutation({
    mutationFn: (id: number) =>
      data(api.DELETE('/api/v1/company/holidays/{holiday_id}', { params: { path: { holiday_id: id } } })),
    onSettled: () => client.invalidateQueries({ queryKey: holidaysKey }),
  });
  return (
    <div className="max-w-2xl space-y-4 p-4">
      <div>
        <h1 className="text-lg font-semibold">Holidays</h1>
        <p className="text-sm text-ink-soft">
          On these days nobody has a shift: nothing is offered or planned. What is placed on such a day
          already stays there, and says that it stands outside the shift.
        </p>
      </div>
      {canChange && <AddHoliday />}
      {canChange && <PublicHolidays />}
      {holidays.isError && <Notice tone="bad">{sentenceOf(holidays.error)}</Notice>}
      {remove.isError && <Notice tone="bad">{sentenceOf(remove.error)}</Notice>}
      <ul aria-label="Holidays" className="divide-y divide-hairline border-y border-hairline text-sm">
        {holidays.data?.map((row) => (
          <li key={row.id} className="flex items-center gap-3 py-1.5">
            <time className="figures w-28" dateTime={row.day}>
              {row.day}
            </time>
            <span className="w-24 text-ink-soft">{dayName(moment(row.day, 720))}</span>
            <span className="flex-1 font-semibold">{row.name}</span>
            {canChange && (
              <Button
                rank="quiet"
                aria-label={`Remove ${row.name}`}
                disabled={remove.isPending}
                onClick={() => remove.mutate(row.id)}
              >
                Remove
              </Button>
            )}
          </li>
        ))}
        {holidays.data?.length === 0 && <li className="py-2 text-ink-soft">There are no holidays yet.</li>}
      </ul>
    </div>
  );
}
