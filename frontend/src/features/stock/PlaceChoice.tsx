import { SelectField } from '@/design/Field';
import { useStockPlaces } from './queries';

interface Props {
  label: string;
  value: number | null;
  onChoose: (id: number | null) => void;
  kinds?: readonly ('depot' | 'van')[];
  error?: string | undefined;
  none?: string;
}

/** A depot or a van. */
export function PlaceChoice({ label, value, onChoose, kinds, error, none = 'choose…' }: Props) {
  const places = useStockPlaces();
  const rows = (places.data ?? []).filter((row) => !kinds || (kinds as readonly string[]).includes(row.kind));
  return (
    <SelectField
      label={label}
      value={value ?? ''}
      error={error}
      onChange={(event) => onChoose(Number(event.target.value) || null)}
    >
      <option value="">{none}</option>
      {rows.map((row) => (
        <option key={row.id} value={row.id}>
          {row.technician ? `${row.name}, ${row.technician}` : row.name}
        </option>
      ))}
    </SelectField>
  );
}
