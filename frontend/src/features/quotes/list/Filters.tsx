import { DayField } from '@/design/DayField';
import { SelectField } from '@/design/Field';
import { useSession } from '@/features/people';
import type { QuotesSearch } from './search';

interface Props {
  search: QuotesSearch;
  onChange: (changes: Partial<QuotesSearch>) => void;
}

/** What is looked for; all of it stands in the address. */
export function Filters({ search, onChange }: Props) {
  const me = useSession().account;
  return (
    <div className="space-y-2 text-sm">
      <SelectField
        label="Waits for"
        value={search.waits ?? ''}
        onChange={(event) => onChange({ waits: (event.target.value || undefined) as QuotesSearch['waits'] })}
      >
        <option value="">anything or nothing</option>
        <option value="survey">a survey</option>
        <option value="question">an answer</option>
        <option value="reminder">a reminder</option>
      </SelectField>
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={search.author === me?.id}
          onChange={(event) => onChange({ author: event.target.checked ? me?.id : undefined })}
        />
        only my own
      </label>
      <DayField
        label="Begun from"
        past
        value={search.from ?? ''}
        onChange={(from) => onChange({ from: from || undefined })}
      />
      <DayField
        label="Begun until"
        past
        value={search.until ?? ''}
        onChange={(until) => onChange({ until: until || undefined })}
      />
    </div>
  );
}
