import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import type { SchemaOrderDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextArea } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { QuestionsEditor } from '@/features/company';
import { linesOf } from '@/shared/counted';
import type { Question } from '@/shared/questions';
import { useChangeWork } from '../queries';

/** Tasks and checklist of one order; its job type stays as it is. */
export function WorkForm({ row, onDone }: { row: SchemaOrderDetailOut; onDone: () => void }) {
  const [tasks, setTasks] = useState(row.tasks.join('\n'));
  const [questions, setQuestions] = useState(row.checklist as unknown as Question[]);
  const change = useChangeWork(row.id);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    // A promise, not a callback: the form is drawn anew with the version that comes back.
    void change
      .mutateAsync({ version: row.version, tasks: linesOf(tasks), questions: questions as never })
      .then(
        () => {
          toast.success(`${row.number} changed`);
          onDone();
        },
        () => null,
      );
  };
  return (
    <form
      onSubmit={submit}
      className="max-w-3xl space-y-2 border-l-2 border-copper pl-3"
      aria-label="What is to be done"
    >
      <TextArea
        name="tasks"
        label="Tasks, one a line, in order"
        rows={5}
        value={tasks}
        onChange={(event) => setTasks(event.target.value)}
      />
      <fieldset>
        <legend className="mb-1 text-xs font-semibold text-ink-soft">Checklist</legend>
        <QuestionsEditor questions={questions} onChange={setQuestions} for_="checklist" />
      </fieldset>
      <FormError error={change.error} />
      <div className="flex gap-2">
        <Button type="submit" rank="main" disabled={change.isPending}>
          Save for this order
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
