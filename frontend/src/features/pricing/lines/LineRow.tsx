import { SlidersHorizontal, X } from 'lucide-react';
import { useState, type InputHTMLAttributes } from 'react';
import type { SchemaLineSumOut } from '@/api/types';
import { SelectField, TextField } from '@/design/Field';
import { useTags } from '@/features/company';
import { may, useSession } from '@/features/people';
import { amountText, price } from '@/shared/money';
import { useCurrency, useTaxCodes, useUnits } from '../queries';
import { DiscountFields } from './DiscountFields';
import { noDiscount, wrongIn, type TypedLine } from './model';

interface Props {
  line: TypedLine;
  sum: SchemaLineSumOut | undefined;
  canBeOptional: boolean;
  narrow: boolean;
  onChange: (changes: Partial<TypedLine>) => void;
  onRemove: () => void;
}

const WIDE = 'grid-cols-[minmax(8rem,1fr)_4.25rem_4rem_5.5rem_3.5rem_6rem_4.25rem] items-center';
const NARROW = 'grid-cols-[4rem_4rem_1fr_auto] items-center py-2';

/** One line, changed where it stands; what is seldom needed unfolds below it. */
export function LineRow({ line, sum, canBeOptional, narrow, onChange, onRemove }: Props) {
  const currency = useCurrency();
  const units = useUnits().data ?? [];
  const [open, setOpen] = useState(false);
  const wrong = wrongIn(line, currency);
  const name = line.wording || 'this line';
  const listed = sum?.price == null ? '' : amountText(sum.price, currency);
  return (
    <div data-line={line.key} className="border-b border-hairline">
      <div className={`grid gap-1 ${narrow ? NARROW : WIDE}`}>
        <Cell
          label={`Wording of ${name}`}
          className={narrow ? 'col-span-4' : ''}
          value={line.wording}
          onChange={(wording) => onChange({ wording })}
        />
        <Cell
          label={`How many: ${name}`}
          wrong={wrong.quantity}
          figures
          data-quantity
          value={line.quantity}
          onChange={(quantity) => onChange({ quantity })}
        />
        {line.item ? (
          <span className="truncate text-ink-soft">{units.find(({ code }) => code === line.unit)?.name}</span>
        ) : (
          <UnitChoice name={name} unit={line.unit} onChange={(unit) => onChange({ unit })} />
        )}
        <Cell
          label={`Price each: ${name}`}
          wrong={wrong.price}
          figures
          placeholder={listed || 'price?'}
          title={sum?.source || 'typed here'}
          value={line.price}
          onChange={(typed) => onChange({ price: typed })}
        />
        {!narrow && <QuickOff line={line} name={name} wrong={wrong.discount} onChange={onChange} />}
        <span className="figures text-right font-semibold" data-net>
          {sum ? price(sum.net, currency) : '…'}
        </span>
        <RowEnd
          line={line}
          name={name}
          canBeOptional={canBeOptional}
          narrow={narrow}
          open={open}
          onOpen={() => setOpen((value) => !value)}
          onChange={onChange}
          onRemove={onRemove}
        />
      </div>
      <Wrong words={Object.values(wrong)} />
      {open && <More line={line} sum={sum} canBeOptional={canBeOptional} onChange={onChange} />}
    </div>
  );
}

const Wrong = ({ words }: { words: string[] }) =>
  words.length > 0 && (
    <p role="alert" className="text-xs text-bad">
      {words.join('. ')}
    </p>
  );

interface EndProps extends Omit<Props, 'sum'> {
  name: string;
  open: boolean;
  onOpen: () => void;
}

/** Whether the customer may choose it, what else there is to it, and off with it. */
function RowEnd({ line, name, canBeOptional, narrow, open, onOpen, onChange, onRemove }: EndProps) {
  return (
    <span className={`flex items-center ${narrow ? 'col-span-4' : ''}`}>
      {canBeOptional && (
        <label className="flex items-center gap-1 pl-1" title="The customer may choose it">
          <input
            type="checkbox"
            aria-label={`The customer may choose ${name}`}
            checked={line.optional}
            onChange={(event) => onChange({ optional: event.target.checked })}
          />
          {narrow && <span className="text-xs text-ink-soft">if wished</span>}
        </label>
      )}
      <button
        type="button"
        aria-expanded={open}
        aria-label={`More about ${name}`}
        title="Tax, tag, effort, discount"
        className="ml-auto grid min-h-7 min-w-6 place-items-center text-ink-soft hover:text-ink"
        onClick={onOpen}
      >
        <SlidersHorizontal size={13} aria-hidden />
      </button>
      <button
        type="button"
        aria-label={`Remove ${name}`}
        title="Remove"
        className="grid min-h-7 min-w-6 place-items-center text-ink-soft hover:text-bad"
        onClick={onRemove}
      >
        <X size={14} aria-hidden />
      </button>
    </span>
  );
}

interface CellProps extends Omit<InputHTMLAttributes<HTMLInputElement>, 'onChange' | 'value'> {
  label: string;
  value: string;
  wrong?: string | undefined;
  figures?: boolean;
  onChange: (text: string) => void;
}

const Cell = ({ label, value, wrong, figures = false, className = '', onChange, ...rest }: CellProps) => (
  <input
    type="text"
    aria-label={label}
    aria-invalid={wrong ? true : undefined}
    inputMode={figures ? 'decimal' : undefined}
    className={`w-full min-w-0 rounded-sm border border-transparent bg-transparent px-1 py-1 hover:border-hairline focus:border-hairline focus:bg-sheet aria-invalid:border-bad ${figures ? 'figures text-right placeholder:text-ink-soft' : ''} ${className}`}
    value={value}
    onFocus={(event) => figures && event.target.select()}
    onChange={(event) => onChange(event.target.value)}
    {...rest}
  />
);

const UnitChoice = ({
  name,
  unit,
  onChange,
}: {
  name: string;
  unit: string;
  onChange: (unit: string) => void;
}) => (
  <select
    aria-label={`Unit of ${name}`}
    className="w-full bg-transparent text-ink-soft"
    value={unit}
    onChange={(event) => onChange(event.target.value)}
  >
    {(useUnits().data ?? []).map((row) => (
      <option key={row.code} value={row.code}>
        {row.name}
      </option>
    ))}
  </select>
);

interface OffProps {
  line: TypedLine;
  name: string;
  wrong: string | undefined;
  onChange: (changes: Partial<TypedLine>) => void;
}

/** So many percent off, typed in one go; an amount is typed below. */
function QuickOff({ line, name, wrong, onChange }: OffProps) {
  const off = line.discount;
  return (
    <Cell
      label={`Percent off ${name}`}
      wrong={wrong}
      figures
      placeholder="%"
      title={off?.name ?? 'Discount in percent'}
      readOnly={off?.by === 'amount'}
      value={off?.by === 'amount' ? `−${off.much}` : (off?.much ?? '')}
      onChange={(much) =>
        onChange({
          discount: much.trim() || off?.key ? { ...(off ?? noDiscount()), by: 'percent', much } : null,
        })
      }
    />
  );
}

type MoreProps = Pick<Props, 'line' | 'sum' | 'canBeOptional' | 'onChange'>;

/** What a line has besides: tax, tag, what it costs us, effort, its discount's name and end. */
function More({ line, sum, canBeOptional, onChange }: MoreProps) {
  const currency = useCurrency();
  const codes = (useTaxCodes().data ?? []).filter((code) => !code.retired || code.key === line.tax);
  const tags = useTags().data ?? [];
  const seesCosts = may(useSession(), 'see_margin');
  return (
    <div className="mb-1 grid grid-cols-2 gap-2 border-l-2 border-copper py-1 pl-3 sm:grid-cols-4">
      <SelectField label="Tax" value={line.tax} onChange={(event) => onChange({ tax: event.target.value })}>
        {codes.map((code) => (
          <option key={code.key} value={code.key}>
            {code.name} ({code.percent} %)
          </option>
        ))}
      </SelectField>
      <SelectField label="Tag" value={line.tag} onChange={(event) => onChange({ tag: event.target.value })}>
        <option value="">none</option>
        {tags.map((tag) => (
          <option key={tag.code} value={tag.code}>
            {tag.name}
          </option>
        ))}
      </SelectField>
      <TextField
        label="Labour-hours in one"
        inputMode="decimal"
        value={line.effort}
        onChange={(event) => onChange({ effort: event.target.value })}
      />
      {seesCosts && !line.item && (
        <TextField
          label={`Costs us, ${currency}`}
          inputMode="decimal"
          value={line.cost}
          onChange={(event) => onChange({ cost: event.target.value })}
        />
      )}
      <div className="col-span-2 sm:col-span-4">
        <DiscountFields
          words="Discount on this line"
          discount={line.discount}
          onChange={(discount) => onChange({ discount })}
        />
      </div>
      {canBeOptional && line.optional && (
        <label className="col-span-2 flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={line.chosen}
            onChange={(event) => onChange({ chosen: event.target.checked })}
          />
          ticked for the customer, who may untick it
        </label>
      )}
      {sum?.source && <p className="col-span-4 text-xs text-ink-soft">Price from: {sum.source}</p>}
    </div>
  );
}
