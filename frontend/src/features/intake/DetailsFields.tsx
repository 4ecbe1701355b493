import { keepAtDesk } from '@/design/FileList';
import { SelectField, TextArea, TextField } from '@/design/Field';
import { Questions } from '@/design/Questions';
import { TagsField, type Tag } from '@/design/TagsField';
import { CustomerPicker } from '@/features/customers';
import type { Question } from '@/shared/questions';
import type { Details } from './model';

interface Props {
  details: Details;
  onChange: (details: Details) => void;
  questions: Question[];
  needsPo: boolean;
  tags: readonly Tag[];
  open: boolean;
  /** The two texts stand elsewhere on the page. */
  withoutTexts?: boolean;
}

/** What an order has besides the need: who pays, the purchase order, notes, the company's own fields. */
export function DetailsFields({ details, onChange, questions, needsPo, tags, open, withoutTexts }: Props) {
  const set = (changes: Partial<Details>) => onChange({ ...details, ...changes });
  const needed = questions.filter((question) => question.required === 'to create');
  return (
    <>
      {needsPo && details.billing === 'billable' && (
        <TextField
          label="Purchase-order number *"
          hint="This customer wants one on every order: ask for it."
          value={details.poNumber}
          onChange={(event) => set({ poNumber: event.target.value })}
        />
      )}
      {needed.length > 0 && (
        <Questions
          questions={needed}
          answers={details.extra}
          onChange={(extra) => set({ extra })}
          onFile={keepAtDesk}
        />
      )}
      <details className="border-t border-hairline pt-1" open={open || undefined}>
        <summary className="cursor-pointer py-1 text-sm font-semibold">
          {withoutTexts ? 'Payer and more about the order' : 'Payer, notes and more about the order'}
        </summary>
        <div className="space-y-2 pt-1">
          <Payer details={details} set={set} needsPo={needsPo} />
          <TagsField tags={tags} chosen={details.tags} onChange={(chosen) => set({ tags: chosen })} />
          {!withoutTexts && <Texts details={details} set={set} />}
          <Questions
            questions={questions.filter((question) => question.required !== 'to create')}
            answers={details.extra}
            onChange={(extra) => set({ extra })}
            onFile={keepAtDesk}
          />
        </div>
      </details>
    </>
  );
}

interface PartProps {
  details: Details;
  set: (changes: Partial<Details>) => void;
}

/** Who pays, and how. */
const Payer = ({ details, set, needsPo }: PartProps & { needsPo: boolean }) => (
  <div className="grid grid-cols-2 gap-2">
    <CustomerPicker
      label="Payer, if it is somebody else"
      placeholder="the customer pays"
      chosen={details.payer}
      onChoose={(payer) => set({ payer, payerAddress: '' })}
    />
    <TextField
      label="or billed to this address"
      value={details.payerAddress}
      disabled={details.payer !== null}
      onChange={(event) => set({ payerAddress: event.target.value })}
    />
    <SelectField
      label="Billing"
      value={details.billing}
      onChange={(event) => set({ billing: event.target.value as Details['billing'] })}
    >
      <option>billable</option>
      <option>not billable</option>
      <option>contract</option>
    </SelectField>
    {!needsPo && (
      <TextField
        label="Purchase-order number"
        value={details.poNumber}
        onChange={(event) => set({ poNumber: event.target.value })}
      />
    )}
  </div>
);

/** What the technician reads, and what the customer reads on the invoice. */
export const Texts = ({ details, set }: PartProps) => (
  <div className="grid grid-cols-2 gap-2">
    <TextArea
      label="Note to the technician"
      rows={2}
      value={details.technicianNote}
      onChange={(event) => set({ technicianNote: event.target.value })}
    />
    <TextArea
      label="Text on the invoice"
      rows={2}
      value={details.invoiceText}
      onChange={(event) => set({ invoiceText: event.target.value })}
    />
  </div>
);
