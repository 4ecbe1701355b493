import { useState } from 'react';
import { toast } from 'sonner';
import type { SchemaRecordFieldsOut } from '@/api/types';
import { SelectField } from '@/design/Field';
import { MergeInto, UsedBy } from '@/design/Uses';
import { useMergeField } from '../commands';
import { useFieldUses } from '../queries';

interface Props {
  row: SchemaRecordFieldsOut;
  canChange: boolean;
}

/** Who answers one of the fields, and making two of them one. */
export function FieldUses({ row, canChange }: Props) {
  const [key, setKey] = useState('');
  const chosen = row.questions.find((question) => question.key === key);
  if (row.questions.length === 0) return null;
  return (
    <div className="mt-2 max-w-sm space-y-2 text-sm">
      <SelectField label="Who answers a field" value={key} onChange={(event) => setKey(event.target.value)}>
        <option value="">choose one…</option>
        {row.questions.map((question) => (
          <option key={question.key} value={question.key}>
            {question.label}
          </option>
        ))}
      </SelectField>
      {chosen && <One key={key} row={row} chosen={chosen} canChange={canChange} />}
    </div>
  );
}

type OneProps = Props & { chosen: SchemaRecordFieldsOut['questions'][number] };

function One({ row, chosen, canChange }: OneProps) {
  const merge = useMergeField();
  const alike = row.questions.filter(({ key, kind }) => key !== chosen.key && kind === chosen.kind);
  return (
    <>
      <UsedBy uses={useFieldUses(row.record, chosen.key)} />
      <MergeInto
        name={chosen.label}
        others={canChange ? alike.map(({ key, label }) => ({ key, name: label })) : []}
        busy={merge.isPending}
        error={merge.error}
        onMerge={(into, name) =>
          merge.mutate(
            { record: row.record, version: row.version, key: chosen.key, into },
            { onSuccess: () => toast.success(`${chosen.label} is ${name} now`) },
          )
        }
        hint="Answers move along."
      />
    </>
  );
}
