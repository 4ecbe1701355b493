// Fields of forms about parts: a part, a place, a site, a technician.

import { FormSelect, FormValue } from '@/design/form';
import { useTechnicians } from '@/features/people';
import { PartChoice, PlaceChoice } from '@/features/stock';
import { SiteField, type ChosenSite } from './SiteField';

export const FormPart = ({
  name,
  label,
  autoFocus,
}: {
  name: string;
  label: string;
  autoFocus?: boolean;
}) => (
  <FormValue name={name}>
    {({ value, onChange, error }) => (
      <PartChoice
        label={label}
        value={value as string}
        onChoose={onChange}
        error={error}
        autoFocus={autoFocus ?? false}
      />
    )}
  </FormValue>
);

export const FormPlace = ({ name, label }: { name: string; label: string }) => (
  <FormValue name={name}>
    {({ value, onChange, error }) => (
      <PlaceChoice label={label} value={value as number | null} onChoose={onChange} error={error} />
    )}
  </FormValue>
);

export const FormSite = ({ name, label }: { name: string; label?: string }) => (
  <FormValue name={name}>
    {({ value, onChange, error }) => (
      <SiteField label={label} value={value as ChosenSite | null} onChoose={onChange} error={error} />
    )}
  </FormValue>
);

export function FormTechnician({ name, label }: { name: string; label: string }) {
  const technicians = useTechnicians().data ?? [];
  return (
    <FormSelect name={name} label={label}>
      <option value="">choose…</option>
      {technicians.map((row) => (
        <option key={row.id} value={row.id}>
          {row.name}
        </option>
      ))}
    </FormSelect>
  );
}
