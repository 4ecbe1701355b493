import type { SchemaQuoteOut, SchemaSumsOut } from '@/api/types';
import { SelectField, TextArea, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { useJobTypes } from '@/features/catalogue';
import { useCustomer } from '@/features/customers';
import { LinesEditor, useCurrency, WholeDiscounts, type TypedSet } from '@/features/pricing';
import type { TypedOption, TypedQuote } from '../model';
import { OptionStrip } from './OptionStrip';
import { Pictures } from './Pictures';

interface Props {
  quote: SchemaQuoteOut;
  typed: TypedQuote;
  onType: (next: (old: TypedQuote) => TypedQuote) => void;
  sums: SchemaSumsOut[];
  error: unknown;
  /** Which of the options is looked at. */
  shown: number;
  onShow: (index: number) => void;
}

type Set = (changes: Partial<TypedQuote>) => void;

interface PartProps {
  quote: SchemaQuoteOut;
  typed: TypedQuote;
  set: Set;
}

/** A draft: what is to be done, the ways to do it side by side, the lines of one of them, and the words around it. */
export function Editor({ quote, typed, onType, sums, error, shown, onShow }: Props) {
  const set: Set = (changes) => onType((old) => ({ ...old, ...changes }));
  const setOption = (changes: Partial<TypedOption>) =>
    onType((old) => ({
      ...old,
      options: old.options.map((option, index) => (index === shown ? { ...option, ...changes } : option)),
    }));
  const option = typed.options[shown];
  return (
    <div className="space-y-4 text-sm" role="form" aria-label="Quote">
      <About quote={quote} typed={typed} set={set} />
      <OptionStrip
        typed={typed}
        sums={sums}
        shown={shown}
        onShow={onShow}
        onChange={(options) => set({ options })}
      />
      {option && (
        <section aria-label={`Lines of ${option.name || 'the offer'}`} className="space-y-2">
          <OneOption option={option} several={typed.options.length > 1} onChange={setOption} />
          <LinesEditor
            lines={option.lines}
            onChange={(lines) => setOption({ lines })}
            sums={sums[shown]}
            canBeOptional
          />
          <WholeDiscounts
            discounts={option.discounts}
            onChange={(discounts: TypedSet['discounts']) => setOption({ discounts })}
          />
        </section>
      )}
      <FormError error={error} />
      <Words quote={quote} typed={typed} set={set} />
    </div>
  );
}

/** What it is called, where, and what is to be done. */
function About({ quote, typed, set }: PartProps) {
  const jobs = (useJobTypes().data ?? []).filter((job) => !job.retired || job.id === typed.jobTypeId);
  return (
    <div className="grid grid-cols-[2fr_1.4fr_1.4fr] gap-2">
      <TextField
        name="title"
        label="Title"
        maxLength={160}
        value={typed.title}
        onChange={(event) => set({ title: event.target.value })}
      />
      <Where quote={quote} typed={typed} set={set} />
      <TextArea
        label="What is to be done, as the customer reads it"
        rows={3}
        className="col-span-2"
        value={typed.scope}
        onChange={(event) => set({ scope: event.target.value })}
      />
      <SelectField
        label="Job type"
        hint="its tasks and checklist become those of the order"
        value={typed.jobTypeId ?? ''}
        onChange={(event) => set({ jobTypeId: Number(event.target.value) || null })}
      >
        <option value="">none</option>
        {jobs.map((job) => (
          <option key={job.id} value={job.id}>
            {job.name}
          </option>
        ))}
      </SelectField>
    </div>
  );
}

/** The site, and the equipment there. */
function Where({ quote, typed, set }: PartProps) {
  const sites = useCustomer(quote.customer_id).data?.sites ?? [];
  const site = sites.find(({ id }) => id === typed.siteId);
  const number = (text: string) => Number(text) || null;
  return (
    <>
      <SelectField
        label="Site"
        name="site_id"
        value={typed.siteId ?? ''}
        onChange={(event) => set({ siteId: number(event.target.value), assetId: null })}
      >
        <option value="">not said yet</option>
        {sites.map((row) => (
          <option key={row.id} value={row.id}>
            {row.name}
          </option>
        ))}
      </SelectField>
      <SelectField
        label="Equipment"
        value={typed.assetId ?? ''}
        onChange={(event) => set({ assetId: number(event.target.value) })}
      >
        <option value="">none in particular</option>
        {site?.assets.map((asset) => (
          <option key={asset.id} value={asset.id}>
            {[asset.kind, asset.make, asset.serial].filter(Boolean).join(' ')}
          </option>
        ))}
      </SelectField>
    </>
  );
}

interface OneProps {
  option: TypedOption;
  several: boolean;
  onChange: (changes: Partial<TypedOption>) => void;
}

const OneOption = ({ option, several, onChange }: OneProps) => (
  <div className="grid grid-cols-[1fr_2fr_5rem_4rem] gap-2">
    <TextField
      label={several ? 'Name of this way to do it' : 'Name, where there are several ways'}
      maxLength={80}
      value={option.name}
      onChange={(event) => onChange({ name: event.target.value })}
    />
    <TextField
      label="In a sentence"
      maxLength={2000}
      value={option.summary}
      onChange={(event) => onChange({ summary: event.target.value })}
    />
    <TextField
      label="Takes"
      placeholder="1:30"
      value={option.length}
      onChange={(event) => onChange({ length: event.target.value })}
    />
    <TextField
      label="People"
      inputMode="numeric"
      placeholder="1"
      value={option.crew}
      onChange={(event) => onChange({ crew: event.target.value })}
    />
  </div>
);

/** Who reads it, the words around it, and what only we read. */
function Words({ quote, typed, set }: PartProps) {
  const currency = useCurrency();
  const text = (name: 'technicianNote' | 'note') => ({
    value: typed[name],
    onChange: (event: { target: { value: string } }) => set({ [name]: event.target.value }),
  });
  const short = (name: 'contactName' | 'contactEmail' | 'contactPhone' | 'days' | 'deposit') => ({
    value: typed[name],
    onChange: (event: { target: { value: string } }) => set({ [name]: event.target.value }),
  });
  return (
    <>
      <div className="grid grid-cols-4 gap-2">
        <TextField label="For whom" maxLength={120} {...short('contactName')} />
        <TextField label="E-mail" name="contact_email" type="email" {...short('contactEmail')} />
        <TextField label="Phone" {...short('contactPhone')} />
        <TextField
          label="Chance, %"
          type="number"
          min={0}
          max={100}
          step={10}
          value={typed.chance}
          onChange={(event) => set({ chance: Math.max(0, Math.min(100, Number(event.target.value))) })}
        />
        <TextField label="Valid for days" inputMode="numeric" {...short('days')} />
        <TextField label="Deposit" inputMode="decimal" placeholder="none" {...short('deposit')} />
        <SelectField
          label="in"
          value={typed.depositBy}
          onChange={(event) => set({ depositBy: event.target.value as TypedQuote['depositBy'] })}
        >
          <option value="percent">% of the total with tax</option>
          <option value="amount">{currency}</option>
        </SelectField>
        {quote.extra_work_on_id && (
          <label className="flex items-end gap-1.5 pb-2">
            <input
              type="checkbox"
              checked={typed.extraWork}
              onChange={(event) => set({ extraWork: event.target.checked })}
            />
            becomes part of {quote.extra_work_on}
          </label>
        )}
      </div>
      <Around quote={quote} typed={typed} set={set} />
      <div className="grid grid-cols-2 gap-2">
        <TextArea
          label="Note to the technician (the customer does not read it)"
          rows={2}
          {...text('technicianNote')}
        />
        <TextArea label="Note for ourselves" rows={2} {...text('note')} />
      </div>
    </>
  );
}

/** What stands around the offer, and the pictures with it. */
function Around({ quote, typed, set }: PartProps) {
  const text = (name: 'introduction' | 'closing' | 'terms') => ({
    value: typed[name],
    onChange: (event: { target: { value: string } }) => set({ [name]: event.target.value }),
  });
  return (
    <details>
      <summary className="cursor-pointer font-semibold">Introduction, closing words, terms, pictures</summary>
      <div className="mt-1 grid grid-cols-2 gap-2">
        <TextArea label="Introduction" rows={2} {...text('introduction')} />
        <TextArea label="Closing words" rows={2} {...text('closing')} />
        <TextArea label="Terms the customer accepts" rows={4} {...text('terms')} />
        <Pictures
          quoteId={quote.id}
          surveyed={[...new Set(quote.surveys.map((row) => row.order_id))]}
          chosen={typed.pictures}
          onChange={(pictures) => set({ pictures })}
        />
      </div>
    </details>
  );
}
