import { Plus, X } from 'lucide-react';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { SelectField, TextField } from '@/design/Field';
import { useCurrency, useDiscounts } from '../queries';
import { noDiscount, typedDiscount, wrongDiscount, type TypedDiscount } from './model';

interface Props {
  words: string;
  discount: TypedDiscount | null;
  onChange: (discount: TypedDiscount | null) => void;
}

/** Something off: one the company gives by name, or one of one's own. */
export function DiscountFields({ words, discount, onChange }: Props) {
  const currency = useCurrency();
  if (!discount)
    return (
      <Button rank="quiet" icon={<Plus size={14} />} onClick={() => onChange(noDiscount())}>
        {words}
      </Button>
    );
  const set = (changes: Partial<TypedDiscount>) => onChange({ ...discount, ...changes });
  return (
    <fieldset className="flex flex-wrap items-end gap-2" aria-label={words}>
      <ByName discount={discount} onChange={onChange} />
      <TextField
        label="Name, as the customer reads it"
        className="w-44"
        value={discount.name}
        readOnly={discount.key !== ''}
        onChange={(event) => set({ name: event.target.value })}
      />
      <TextField
        label="Off"
        className="w-20"
        inputMode="decimal"
        value={discount.much}
        readOnly={discount.key !== ''}
        error={wrongDiscount(discount, currency) ? 'A number' : undefined}
        onChange={(event) => set({ much: event.target.value })}
      />
      <SelectField
        label="In"
        className="w-20"
        value={discount.by}
        disabled={discount.key !== ''}
        onChange={(event) => set({ by: event.target.value as TypedDiscount['by'] })}
      >
        <option value="percent">%</option>
        <option value="amount">{currency}</option>
      </SelectField>
      <DayField label="Until" className="w-32" value={discount.until} onChange={(until) => set({ until })} />
      <Button
        rank="quiet"
        aria-label={`Remove: ${words}`}
        icon={<X size={14} />}
        onClick={() => onChange(null)}
      />
    </fieldset>
  );
}

interface ByNameProps {
  discount: TypedDiscount;
  onChange: (discount: TypedDiscount) => void;
}

/** One of those the company gives; what is over cannot be given any more. */
function ByName({ discount, onChange }: ByNameProps) {
  const currency = useCurrency();
  const named = useDiscounts().data ?? [];
  if (named.length === 0) return null;
  return (
    <SelectField
      label="By name"
      className="w-40"
      value={discount.key}
      onChange={(event) => {
        const row = named.find(({ key }) => key === event.target.value);
        onChange(row ? typedDiscount(row, currency) : { ...discount, key: '' });
      }}
    >
      <option value="">one of your own</option>
      {named.map((row) => (
        <option key={row.key} value={row.key} disabled={row.problem !== ''}>
          {row.name}
          {row.problem ? ' (over)' : ''}
        </option>
      ))}
    </SelectField>
  );
}

interface ListProps {
  discounts: TypedDiscount[];
  onChange: (discounts: TypedDiscount[]) => void;
}

/** Discounts on the whole. */
export const WholeDiscounts = ({ discounts, onChange }: ListProps) => (
  <div className="space-y-1">
    {discounts.map((one, index) => (
      <DiscountFields
        key={index}
        words={`Discount on the whole ${index + 1}`}
        discount={one}
        onChange={(changed) =>
          onChange(
            changed
              ? discounts.map((old, at) => (at === index ? changed : old))
              : discounts.filter((_, at) => at !== index),
          )
        }
      />
    ))}
    {discounts.length < 5 && (
      <Button rank="quiet" icon={<Plus size={14} />} onClick={() => onChange([...discounts, noDiscount()])}>
        Discount on the whole
      </Button>
    )}
  </div>
);
