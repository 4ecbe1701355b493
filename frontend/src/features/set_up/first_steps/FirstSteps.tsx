import { Link } from '@tanstack/react-router';
import { Check, Circle } from 'lucide-react';
import { sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';
import { useJobTypes } from '@/features/catalogue';
import { useCompany } from '@/features/company';
import { useLatestCustomers } from '@/features/customers';
import { may, useSession, useTechnicians } from '@/features/people';
import { Example } from './Example';
import { stepsOf, type Step } from './steps';

/** From nothing to the first planned day: what is done, what is missing, and where it is done. */
export function FirstSteps() {
  const session = useSession();
  const company = useCompany();
  const people = useTechnicians();
  const jobs = useJobTypes(true);
  const customers = useLatestCustomers();
  const error = company.error ?? people.error ?? jobs.error ?? customers.error;
  if (error) return <Notice tone="bad">{sentenceOf(error)}</Notice>;
  if (!company.data || !people.data || !jobs.data || !customers.data)
    return <p className="p-4 text-ink-soft">Looking what is there…</p>;
  const steps = stepsOf({
    named: company.data.country !== '',
    depots: company.data.depots.length,
    technicians: people.data.length,
    withHours: people.data.filter((row) => row.has_hours).length,
    withAccount: people.data.filter((row) => row.has_account).length,
    jobTypes: jobs.data.filter((row) => !row.retired).length,
    customers: customers.data.length,
  });
  const missing = steps.filter((step) => step.needed && !step.done).length;
  return (
    <div className="max-w-2xl space-y-4 p-4">
      <h1 className="text-lg font-semibold">First steps</h1>
      {missing > 0 ? (
        <p role="status">
          {missing === 1 ? 'One step is missing' : `${missing} steps are missing`} before the first visit can
          be placed.
        </p>
      ) : (
        <Notice tone="good">
          A visit can be placed.{' '}
          <Link to="/intake" className="underline">
            Take the first call
          </Link>
          , then place it on the{' '}
          <Link to="/board" className="underline">
            board
          </Link>
          .
        </Notice>
      )}
      <ol aria-label="First steps" className="divide-y divide-hairline border-y border-hairline">
        {steps.map((step) => (
          <StepRow key={step.to + step.title} step={step} />
        ))}
      </ol>
      {may(session, 'manage_accounts') && <Example />}
    </div>
  );
}

const StepRow = ({ step }: { step: Step }) => (
  <li className="flex items-start gap-3 py-2">
    {step.done ? (
      <Check size={18} className="mt-0.5 text-good" aria-label="done" />
    ) : (
      <Circle size={18} className="mt-0.5 text-ink-soft" aria-label={step.needed ? 'missing' : 'can wait'} />
    )}
    <span className="flex-1">
      <Link to={step.to} className="font-semibold underline">
        {step.title}
      </Link>
      <span className="block text-sm text-ink-soft">{step.words}</span>
    </span>
  </li>
);
