import { z } from 'zod';
import type { SchemaAccountRowOut, SchemaRole } from '@/api/types';
import { FormSelect, FormText } from '@/design/form';
import { useTechnicians } from '@/features/people';
import { useRoles } from '../queries';

export const accountFields = {
  name: z.string().trim().min(1, 'An account needs a name'),
  role: z.string().min(1, 'Choose what they may do'),
  technician_id: z.coerce.number().int(),
};

const OWN = 'own:';

/** The role of an account as one value: its name, or which of the company's own. */
export const chosenOf = (row: SchemaAccountRowOut) =>
  row.own_role_id == null ? row.role : `${OWN}${row.own_role_id}`;

/** What is typed, as the server takes it: 0 stands for nobody. */
export const sent = <Read extends { role: string; technician_id: number }>(read: Read) => {
  const own = read.role.startsWith(OWN);
  return {
    ...read,
    role: (own ? 'own' : read.role) as SchemaRole,
    own_role_id: own ? Number(read.role.slice(OWN.length)) : null,
    technician_id: read.technician_id || null,
  };
};

/** Name, role in words, and as whom they work from the phone. */
export function AccountFields() {
  const roles = useRoles();
  const technicians = useTechnicians();
  return (
    <>
      <FormText name="name" label="Name" maxLength={120} />
      <FormSelect name="role" label="Role">
        <option value="">choose…</option>
        {roles.data?.roles.map((row) => (
          <option key={row.role} value={row.role}>
            {row.role}: {row.duty}
          </option>
        ))}
        {roles.data?.own.map((row) => (
          <option key={row.id} value={`${OWN}${row.id}`}>
            {row.duty ? `${row.name}: ${row.duty}` : row.name}
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
