import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaPublicHolidayOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { serverNow } from '@/shared/clock';
import { dayName, isoDay, moment } from '@/shared/time';
import { countryName } from '../facts/countries';
import { useCompany } from '../queries';
import { holidaysKey } from './key';

/** The public holidays of the company's country, a year at a time: read, and taken. */
export function PublicHolidays() {
  const company = useCompany();
  const thisYear = Number(isoDay(serverNow()).slice(0, 4));
  const [year, setYear] = useState<number | null>(null);
  if (!company.data) return null;
  const { country, region } = company.data;
  if (!country)
    return (
      <p className="text-sm">
        <Link to="/set-up/company" className="underline">
          Say in which country the company is
        </Link>
        , and its public holidays can be taken from there.
      </p>
    );
  return (
    <section aria-label="Public holidays" className="space-y-2 text-sm">
      <div className="flex items-center gap-2">
        <span>Public holidays of {countryName(country)}:</span>
        {[thisYear, thisYear + 1].map((one) => (
          <Button key={one} aria-pressed={year === one} onClick={() => setYear(year === one ? null : one)}>
            {String(one)}
          </Button>
        ))}
      </div>
      {year !== null && <Year key={year} {...{ country, region, year }} onDone={() => setYear(null)} />}
    </section>
  );
}

interface YearProps {
  country: string;
  region: string;
  year: number;
  onDone: () => void;
}

function Year({ country, region, year, onDone }: YearProps) {
  const client = useQueryClient();
  const [left, setLeft] = useState<string[]>([]);
  const listed = useQuery({
    queryKey: [...holidaysKey, country, region, year],
    queryFn: () =>
      data(api.GET('/api/v1/company/holidays/public', { params: { query: { country, region, year } } })),
  });
  const free = (listed.data ?? []).filter((row) => !row.is_ours);
  const days = free.map((row) => row.day).filter((day) => !left.includes(day));
  const take = useMutation({
    mutationFn: () =>
      data(api.POST('/api/v1/company/holidays/public', { body: { country, region, year, days } })),
    onSuccess: () => {
      toast.success(`${days.length === 1 ? 'One day is' : `${days.length} days are`} holidays now`);
      onDone();
    },
    onSettled: () => client.invalidateQueries({ queryKey: holidaysKey }),
  });
  const error = listed.error ?? take.error;
  if (error) return <Notice tone="bad">{sentenceOf(error)}</Notice>;
  if (!listed.data) return <p className="text-ink-soft">Fetching…</p>;
  const tick = (day: string, on: boolean) =>
    setLeft(on ? left.filter((other) => other !== day) : [...left, day]);
  return (
    <div className="space-y-2 border-l-2 border-copper pl-3">
      <ul aria-label={`Public holidays of ${year}`} className="space-y-0.5">
        {listed.data.map((row) => (
          <Day key={row.day} row={row} on={!left.includes(row.day)} onTick={(on) => tick(row.day, on)} />
        ))}
      </ul>
      <div className="flex gap-2">
        <Button rank="main" disabled={days.length === 0 || take.isPending} onClick={() => take.mutate()}>
          {days.length === 0
            ? 'Nothing to add'
            : `Add ${days.length === 1 ? 'one day' : `${days.length} days`}`}
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Cancel
        </Button>
      </div>
    </div>
  );
}

interface DayProps {
  row: SchemaPublicHolidayOut;
  on: boolean;
  onTick: (on: boolean) => void;
}

const Day = ({ row, on, onTick }: DayProps) => (
  <li>
    <label className="flex items-center gap-2">
      <input
        type="checkbox"
        checked={row.is_ours || on}
        disabled={row.is_ours}
        onChange={(event) => onTick(event.target.checked)}
      />
      <span className="w-24 text-ink-soft">{dayName(moment(row.day, 720))}</span>
      {row.name}
      {row.is_ours && <span className="text-ink-soft">a holiday already</span>}
    </label>
  </li>
);
