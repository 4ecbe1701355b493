import { Link } from '@tanstack/react-router';
import { toast } from 'sonner';
import { z } from 'zod';
import type { SchemaTechnicianRecordOut } from '@/api/types';
import { Form, FormDay, KeepOrLeave, useKeptForm } from '@/design/form';
import { dayName, moment } from '@/shared/time';
import { useSetTechnician } from '../queries';

const schema = z.object({ employed_from: z.string(), employed_until: z.string() });

interface Props {
  person: SchemaTechnicianRecordOut;
  canChange: boolean;
}

/** First and last day. What was worked stays; what is placed after the last day stays, and says so on the board. */
export function EmploymentForm({ person, canChange }: Props) {
  const { employment } = useSetTechnician();
  const kept = useKeptForm({
    schema,
    values: { employed_from: person.employed_from ?? '', employed_until: person.employed_until ?? '' },
    keep: async ({ employed_from, employed_until }) => {
      await employment.mutateAsync({
        id: person.id,
        version: person.version,
        employed_from: employed_from || null,
        employed_until: employed_until || null,
      });
      toast.success(`The employment of ${person.name} is saved`);
    },
  });
  const until = person.employed_until;
  return (
    <Form kept={kept} label="Employment" className="max-w-2xl space-y-2">
      <h2 className="font-semibold">Employment</h2>
      <fieldset disabled={!canChange} className="space-y-2">
        <div className="flex items-end gap-2">
          <FormDay name="employed_from" label="First day; empty: since ever" />
          <FormDay name="employed_until" label="Last day; empty: for good" />
          {canChange && <KeepOrLeave words="Save employment" />}
        </div>
        {until && (
          <p className="text-sm text-warn">
            No working hours after {dayName(moment(until, 720))}. What is placed later{' '}
            <Link to="/board" search={{ day: until, span: 14 }} className="underline">
              stands on the board
            </Link>{' '}
            until it is handed over.
          </p>
        )}
      </fieldset>
    </Form>
  );
}
