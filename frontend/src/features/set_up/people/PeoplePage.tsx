import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { useCompany } from '@/features/company';
import { may, Portrait, useSession, useTechnicians } from '@/features/people';
import { useTechnician } from '../queries';
import type { PeopleSearch } from '../search';
import { CalendarFile } from './CalendarFile';
import { EmploymentForm } from './EmploymentForm';
import { HandOver } from './HandOver';
import { PapersForm } from './PapersForm';
import { PersonForm } from './PersonForm';
import { PhotoField } from './PhotoField';
import { SaidOf } from './SaidOf';
import { TermsForm } from './TermsForm';
import { WeekForm } from './WeekForm';

/** Technicians: who they are, what they can do, and when they work. */
export function PeoplePage() {
  const people = useTechnicians();
  const company = useCompany();
  const canChange = may(useSession(), 'change_settings');
  const { person } = useSearch({ strict: false }) as PeopleSearch;
  const navigate = useNavigate();
  const [isNew, setNew] = useState(false);
  const chosen = isNew ? 'new' : (person ?? null);
  const choose = (id: number) => {
    setNew(false);
    void navigate({ to: '.', search: { person: id } });
  };
  const rows = people.data ?? [];
  const noDepot = company.data?.depots.length === 0;
  return (
    <div className="grid h-full min-h-0 grid-cols-[18rem_minmax(0,1fr)]">
      <div className="min-h-0 overflow-y-auto border-r border-hairline">
        <header className="flex items-center justify-between px-3 py-2">
          <h1 className="text-lg font-semibold">Technicians</h1>
          {canChange && !noDepot && <Button onClick={() => setNew(true)}>New technician</Button>}
        </header>
        {people.isError && <Notice tone="bad">{sentenceOf(people.error)}</Notice>}
        {noDepot && <FirstADepot />}
        <ul className="divide-y divide-hairline border-y border-hairline text-sm" aria-label="Technicians">
          {rows.map((row) => (
            <li key={row.id} className={row.id === chosen ? 'bg-copper-wash' : ''}>
              <button
                type="button"
                aria-current={row.id === chosen}
                className="flex w-full items-center gap-2 px-3 py-1 text-left hover:bg-wash"
                onClick={() => choose(row.id)}
              >
                <Portrait technicianId={row.id} size={24} />
                <b className="flex-1 font-semibold">{row.name}</b>
                <span className="text-ink-soft">{row.depot}</span>
              </button>
            </li>
          ))}
          {people.data?.length === 0 && (
            <li className="px-3 py-2 text-ink-soft">There are no technicians yet.</li>
          )}
        </ul>
      </div>
      <div className="min-h-0 overflow-y-auto p-4">
        {chosen === null && (
          <p className="text-ink-soft">Choose a technician to see their skills and hours.</p>
        )}
        {chosen === 'new' && <PersonForm person={null} canChange={canChange} onSaved={choose} />}
        {typeof chosen === 'number' && <Person key={chosen} id={chosen} canChange={canChange} />}
      </div>
    </div>
  );
}

const FirstADepot = () => (
  <div className="p-3">
    <Notice>
      Days begin and end at a depot:{' '}
      <Link to="/set-up/depots" className="underline">
        add a depot first
      </Link>
      .
    </Notice>
  </div>
);

function Person({ id, canChange }: { id: number; canChange: boolean }) {
  const person = useTechnician(id);
  const canPlan = may(useSession(), 'plan');
  if (person.isError) return <Notice tone="bad">{sentenceOf(person.error)}</Notice>;
  if (!person.data) return <p className="text-ink-soft">Fetching…</p>;
  return (
    <div className="space-y-6">
      {canChange && <PhotoField person={person.data} />}
      <PersonForm person={person.data} canChange={canChange} />
      {/* Begun anew when what they show is another; saving one of the forms leaves alone what is typed in the rest. */}
      <WeekForm key={JSON.stringify(person.data.weeks)} person={person.data} canChange={canChange} />
      {canChange && <TermsForm person={person.data} />}
      <PapersForm key={JSON.stringify(person.data.certificates)} person={person.data} canChange={canChange} />
      <SaidOf technicianId={id} />
      {canPlan && <CalendarFile technicianId={id} />}
      <EmploymentForm person={person.data} canChange={canChange} />
      {person.data.employed_until && canPlan && (
        <HandOver technicianId={id} after={person.data.employed_until} />
      )}
    </div>
  );
}
