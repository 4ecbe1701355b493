import { useFormState } from 'react-hook-form';
import type { SchemaVisitDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayBox } from '@/design/DayField';
import {
  Form,
  FormArea,
  FormCheck,
  FormDay,
  FormSelect,
  FormText,
  FormValue,
  useKeptForm,
} from '@/design/form';
import { SkillsField } from '@/features/people';
import { PartsField } from '@/features/stock';
import { useEdit } from '../commands';
import { fieldsOf, typedOf, visitForm, type TypedPromise } from './visitForm';

/** A visit's own facts, editable beside the board. What was typed stays when the server refuses it. */
export function EditForm({ visit }: { visit: SchemaVisitDetailOut }) {
  const edit = useEdit(visit);
  const kept = useKeptForm({
    schema: visitForm,
    values: typedOf(visit),
    keep: async (read, form) => {
      await edit.mutateAsync({ ...fieldsOf(read, visit), parts: read.takes });
      // What was typed is the visit's now: what others make of it later is shown again.
      form.setValue('takes', null);
    },
  });
  const { over } = visit;
  return (
    <Form kept={kept} label="Edit visit" className="space-y-2 border-t border-hairline pt-3">
      <fieldset disabled={over} className="min-w-0 space-y-2 disabled:opacity-60">
        <Facts visit={visit} />
      </fieldset>
      {over && <p className="text-xs text-ink-soft">It is over: only the notes can still change.</p>}
      <FormArea name="notes" label="Notes for the technician" rows={2} />
      <fieldset disabled={over}>
        <FormCheck name="pinned" words="Pinned: nobody moves it" />
      </fieldset>
      <Save pending={edit.isPending} />
    </Form>
  );
}

function Facts({ visit }: { visit: SchemaVisitDetailOut }) {
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <FormText name="duration" label="Length" placeholder="45 or 1:30" />
        <FormSelect name="priority" label="Priority">
          {[1, 2, 3, 4, 5].map((value) => (
            <option key={value} value={value}>
              {value}
              {value === 1 ? ' (highest)' : value === 5 ? ' (can wait)' : ''}
            </option>
          ))}
        </FormSelect>
      </div>
      <PromiseBoxes />
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_3.5rem] gap-1">
        <FormDay name="earliest" label="Not before" />
        <FormDay name="due" label="Due" />
        <FormText name="crew" label="Crew" inputMode="numeric" />
      </div>
      <FormValue name="needs">
        {({ value, onChange }) => <SkillsField needs={value as Record<string, number>} onChange={onChange} />}
      </FormValue>
      <div className="grid grid-cols-[minmax(0,1fr)_5rem] gap-1">
        <FormValue name="takes">
          {({ value, onChange, error }) => (
            <PartsField
              parts={visit.takes}
              typed={value as string | null}
              onType={onChange}
              rows={2}
              error={error}
            />
          )}
        </FormValue>
        <FormText
          name="worth"
          label="Worth"
          inputMode="numeric"
          readOnly={visit.priced}
          title={visit.priced ? 'It follows from the lines of the order' : ''}
        />
      </div>
    </>
  );
}

const BOX = 'w-full rounded-sm border border-hairline bg-sheet px-1.5 py-1.5';

const PromiseBoxes = () => (
  <FormValue name="promise">
    {({ value, onChange, error }) => {
      const typed = value as TypedPromise;
      const box = (part: 'from' | 'until') => (
        <input
          aria-label={`Promised ${part}`}
          className={BOX}
          value={typed[part]}
          placeholder={part}
          onChange={(event) => onChange({ ...typed, [part]: event.target.value })}
        />
      );
      return (
        <fieldset>
          <legend className="mb-0.5 text-xs font-semibold text-ink-soft">Promise</legend>
          <div className="grid grid-cols-[minmax(0,1fr)_4.2rem_4.2rem] gap-1">
            <DayBox name="Promised day" value={typed.day} onChange={(day) => onChange({ ...typed, day })} />
            {box('from')}
            {box('until')}
          </div>
          {error && (
            <p role="alert" className="text-xs text-bad">
              {error}
            </p>
          )}
        </fieldset>
      );
    }}
  </FormValue>
);

function Save({ pending }: { pending: boolean }) {
  const { isDirty } = useFormState();
  return (
    <Button type="submit" disabled={!isDirty || pending}>
      Save changes
    </Button>
  );
}
