import { toast } from 'sonner';
import { z } from 'zod';
import { Form, FormCheck, FormDay, FormText, KeepOrLeave, useKeptForm } from '@/design/form';
import { moment } from '@/shared/time';
import { FormPart, FormTechnician } from '../fields';
import { useAsk } from '../queries';
import { quantity } from '../typed';

const schema = z.object({
  code: z.string().min(1, 'Say which part'),
  quantity,
  technician_id: z
    .string()
    .min(1, 'Say for whom')
    .transform((text) => Number(text)),
  // The morning of the day.
  needed_by: z.string().transform((day) => (day ? moment(day, 8 * 60) : null)),
  must: z.boolean(),
  substitute_allowed: z.boolean(),
  words: z.string(),
});

const NOTHING = {
  code: '',
  quantity: '1',
  technician_id: '',
  needed_by: '',
  must: true,
  substitute_allowed: false,
  words: '',
};

/** The office asks for a technician, as when one calls. */
export function AskForm({ onDone }: { onDone: () => void }) {
  const ask = useAsk();
  const kept = useKeptForm({
    schema,
    values: NOTHING,
    keep: async (read) => {
      await ask.mutateAsync({ ...read, visit_id: null });
      toast.success('It is asked for');
      onDone();
    },
  });
  return (
    <Form
      kept={kept}
      label="Ask for a part"
      className="space-y-2 rounded-sm border border-hairline bg-sheet p-3"
    >
      <div className="grid grid-cols-[1fr_6rem_14rem_10rem] gap-2">
        <FormPart name="code" label="Part" autoFocus />
        <FormText name="quantity" label="How many" inputMode="numeric" />
        <FormTechnician name="technician_id" label="For" />
        <FormDay name="needed_by" label="Needed by" />
      </div>
      <FormText name="words" label="What for" maxLength={300} />
      <div className="flex gap-4">
        <FormCheck name="must" words="the work cannot be done without it" />
        <FormCheck name="substitute_allowed" words="a substitute will do" />
      </div>
      <KeepOrLeave words="Ask for it" onLeave={onDone} />
    </Form>
  );
}
