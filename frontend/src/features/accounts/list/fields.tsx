import { z } from 'zod';
import type { SchemaRole } from '@/api/types';
import { FormSelect, FormText } from '@/design/form';
import { useTechnicians } from '@/features/people';
import { useRoles } from '../queries';

const ROLES = ['administrator', 'manager', 'dispatcher', 'intake', 'technician', 'reviewer'] as const;

export const accountFields = {
  name: z.string().trim().min(1, 'An account needs a name'),
  role: z.enum(ROLES, 'Choose what they may do'),
  technician_id: z.coerce.number().int(),
};

/** What is typed, as the server takes it: 0 stands for nobody. */
export const sent = <Read extends { role: SchemaRole; technician_id: number }>(read: Read) => ({
  ...read,
  technician_id: read.technician_id || null,
});

/** Name, role in words, and as whom they work from the phone. */
export function AccountFields() {
  const roles = useRoles();
  const technicians = useTechnicians();
  return (
    <>
      <FormText name="name" label="Name" maxLength={120} />
      <FormSelect name="role" label="Role">
        <option value="">choose…</option>
        {roles.data?.map((row) => (
          <option key={row.role} value={row.role}>
            {row.role}: {row.duty}
          </option>
        ))}
      </FormSelect>
      <FormSelect
        name="technician_id"
        label="Works from the phone as"
        hint="Only visits of this technician are seen and worked there."
      >
        <option value={0}>nobody</option>
        {technicians.data?.map((row) => (
          <option key={row.id} value={row.id}>
            {row.name}
          </option>
        ))}
      </FormSelect>
    </>
  );
}
