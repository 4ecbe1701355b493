import type { SchemaStateSumOut } from '@/api/types';
import { useCurrency } from '@/features/pricing';
import { price } from '@/shared/money';
import { MARKS } from '../model';
import type { QuotesSearch } from './search';

interface Props {
  sums: SchemaStateSumOut[];
  search: QuotesSearch;
  onChange: (changes: Partial<QuotesSearch>) => void;
}

/** How many quotes stand where, what they come to without tax, and what of it is likely. A press shows only those. */
export function Pipeline({ sums, search, onChange }: Props) {
  const currency = useCurrency();
  const whole = (amount: number) => price(amount, currency).split('.')[0];
  return (
    <div role="group" aria-label="By state" className="grid grid-cols-6 border-b border-hairline">
      {sums.map((row) => {
        const isOn = search.states?.length === 1 && search.states[0] === row.state;
        return (
          <button
            key={row.state}
            type="button"
            aria-pressed={isOn}
            className={`border-l border-hairline px-2 py-1.5 text-left text-sm first:border-0 ${isOn ? 'bg-copper-wash' : 'hover:bg-wash'}`}
            onClick={() => onChange({ states: isOn ? undefined : [row.state] })}
          >
            <span className="text-ink-soft">
              <span aria-hidden>{MARKS[row.state]}</span> {row.state}{' '}
            </span>
            <b className="figures">{row.count}</b>
            <span className="figures block">{whole(row.net)}</span>
            <span className="block text-xs text-ink-soft">
              {row.likely > 0 && row.state !== 'approved' ? `${whole(row.likely)} likely` : ' '}
            </span>
          </button>
        );
      })}
    </div>
  );
}
