import { Plus, X } from 'lucide-react';
import type { SchemaSumsOut } from '@/api/types';
import { Button } from '@/design/Button';
import { useCurrency } from '@/features/pricing';
import { price } from '@/shared/money';
import { copyOf, MOST_OPTIONS, type TypedOption, type TypedQuote } from '../model';

interface Props {
  typed: TypedQuote;
  sums: SchemaSumsOut[];
  shown: number;
  onShow: (index: number) => void;
  /** Left out for whoever only reads. */
  onChange?: (options: TypedOption[]) => void;
}

/** The ways to do it side by side: what each costs, what is left of it. The customer takes one. */
export function OptionStrip({ typed, sums, shown, onShow, onChange }: Props) {
  const { options } = typed;
  const add = () => {
    const from = options[shown];
    const made: TypedOption = from
      ? copyOf(from, options)
      : { key: 'a', name: '', summary: '', length: '', crew: '', lines: [], discounts: [] };
    onChange?.([...options, made]);
    onShow(options.length);
  };
  return (
    <div className="flex items-stretch border-y border-hairline">
      <ul
        aria-label="Ways to do it"
        className="grid flex-1 auto-cols-fr grid-flow-col divide-x divide-hairline"
      >
        {options.map((option, index) => (
          <li key={option.key} className={`flex ${index === shown ? 'bg-copper-wash' : ''}`}>
            <button
              type="button"
              aria-current={index === shown}
              className="flex-1 px-2 py-1.5 text-left hover:bg-wash"
              onClick={() => onShow(index)}
            >
              <OptionHead option={option} index={index} sums={sums[index]} />
            </button>
            {onChange && options.length > 1 && (
              <Button
                rank="quiet"
                aria-label={`Remove ${option.name || `option ${index + 1}`}`}
                icon={<X size={13} />}
                onClick={() => {
                  onChange(options.filter((one) => one.key !== option.key));
                  onShow(0);
                }}
              />
            )}
          </li>
        ))}
      </ul>
      {onChange && options.length < MOST_OPTIONS && (
        <Button rank="quiet" icon={<Plus size={14} />} onClick={add}>
          Another way
        </Button>
      )}
    </div>
  );
}

function OptionHead({
  option,
  index,
  sums,
}: {
  option: TypedOption;
  index: number;
  sums: SchemaSumsOut | undefined;
}) {
  const currency = useCurrency();
  return (
    <>
      <span className="block font-semibold">
        {option.name || (index === 0 ? 'The offer' : `Way ${index + 1}`)}
      </span>
      <span className="figures">{sums ? price(sums.totals.gross, currency) : '…'}</span>
      <span className="text-xs text-ink-soft">
        {' '}
        with tax
        {sums?.margin?.percent != null && ` · ${Math.round(sums.margin.percent)} % left`}
        {sums?.effort.per_hour != null && ` · ${price(sums.effort.per_hour, currency)} an hour`}
      </span>
    </>
  );
}
