import { toast } from 'sonner';
import { z } from 'zod';
import type { SchemaAccountRowOut } from '@/api/types';
import { Form, KeepOrLeave, useKeptForm } from '@/design/form';
import { useTechnicians } from '@/features/people';
import { useRoles, useSetAccount } from '../queries';
import { AccountFields, accountFields, chosenOf, sent } from './fields';

const schema = z.object(accountFields);

/** Another name, role or technician. */
export function AccountForm({ row }: { row: SchemaAccountRowOut }) {
  const { change } = useSetAccount();
  // Choices are drawn once they are known: a value that is none of them could not be shown.
  const roles = useRoles();
  const technicians = useTechnicians();
  const kept = useKeptForm({
    schema,
    values: { name: row.name, role: chosenOf(row), technician_id: row.technician_id ?? 0 },
    keep: async (read) => {
      await change.mutateAsync({ row, body: sent(read) });
      toast.success(`The account of ${read.name} is saved`);
    },
  });
  if (!roles.data || !technicians.data) return null;
  return (
    <Form kept={kept} label="Account" className="max-w-md space-y-2">
      <h2 className="font-semibold">
        {row.name} <span className="font-normal text-ink-soft">{row.email}</span>
      </h2>
      <AccountFields />
      <KeepOrLeave words="Save changes" />
    </Form>
  );
}
