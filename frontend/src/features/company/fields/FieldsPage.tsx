import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaRecordFieldsOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import type { Question } from '@/shared/questions';
import { useChangeFields } from '../commands';
import { useRecordFields } from '../queries';
import { FieldUses } from './FieldUses';
import { QuestionsEditor } from './QuestionsEditor';

/** The company's own fields: of customers, sites, assets and orders. Job types have theirs on their own page. */
export function FieldsPage() {
  const fields = useRecordFields();
  if (fields.isError) return <Notice tone="bad">{sentenceOf(fields.error)}</Notice>;
  return (
    <div className="space-y-6 p-4">
      <header>
        <h1 className="text-lg font-semibold">Own fields</h1>
        <p className="max-w-2xl text-sm text-ink-soft">
          Facts that only your company asks for. They appear on the record, can be searched and filtered, and
          go out with every export. A field that is taken away keeps its answers.
        </p>
      </header>
      {(fields.data ?? []).map((row) => (
        <Editor key={`${row.record} ${row.version}`} row={row as SchemaRecordFieldsOut} />
      ))}
    </div>
  );
}

function Editor({ row }: { row: SchemaRecordFieldsOut }) {
  const [questions, setQuestions] = useState(row.questions as unknown as Question[]);
  const [touched, setTouched] = useState(false);
  const change = useChangeFields();
  const canChange = may(useSession(), 'change_settings');
  return (
    <section aria-label={`Fields of the ${row.record}`} className="max-w-5xl">
      <h2 className="mb-1 border-b border-hairline font-semibold">
        Every {row.record}
        {row.record === 'vehicle' && ', every morning'}
      </h2>
      <fieldset disabled={!canChange}>
        <QuestionsEditor
          for_="record"
          questions={questions}
          onChange={(next) => {
            setQuestions(next);
            setTouched(true);
          }}
        />
        {change.isError && <Notice tone="bad">{sentenceOf(change.error)}</Notice>}
        {touched && (
          <Button
            rank="main"
            className="mt-2"
            disabled={change.isPending}
            onClick={() =>
              change.mutate(
                { record: row.record, version: row.version, questions: questions as never },
                { onSuccess: () => toast.success(`The fields of the ${row.record} are changed`) },
              )
            }
          >
            Save the fields
          </Button>
        )}
      </fieldset>
      {!touched && <FieldUses row={row} canChange={canChange} />}
    </section>
  );
}
