import { useState } from 'react';
import type { SchemaCustomerFileOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField } from '@/design/Field';

interface Props {
  file: SchemaCustomerFileOut;
  busy: boolean;
  onChoose: (columns: Record<string, string>) => void;
}

/** What each heading of the file means. It was guessed; what is corrected here is remembered for the next file. */
export function ColumnsForm({ file, busy, onChoose }: Props) {
  const [columns, setColumns] = useState(file.columns);
  const headings = Object.keys(file.columns).filter(Boolean);
  const taken = Object.values(columns);
  const missing = file.needed.filter((name) => !taken.includes(name));
  const twice = taken.find((name, index) => name && taken.indexOf(name) !== index);
  const changed = headings.some((title) => columns[title] !== file.columns[title]);
  return (
    <details open={file.state === 'columns'} className="text-sm">
      <summary className="cursor-pointer underline">What the headings mean</summary>
      <form
        aria-label="Headings"
        className="mt-1 max-w-4xl space-y-2"
        onSubmit={(event) => {
          event.preventDefault();
          onChoose(columns);
        }}
      >
        <div className="grid grid-cols-3 gap-2">
          {headings.map((title) => (
            <SelectField
              key={title}
              label={title}
              value={columns[title]}
              onChange={(e) => setColumns({ ...columns, [title]: e.target.value })}
            >
              <option value="">leave it out</option>
              {file.choices.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </SelectField>
          ))}
        </div>
        {missing.length > 0 && <p className="text-bad">Needed, and not named yet: {missing.join(', ')}</p>}
        {twice && <p className="text-bad">Two headings are {twice}: choose one.</p>}
        <Button type="submit" disabled={busy || !changed || missing.length > 0 || twice !== undefined}>
          Read it with these
        </Button>
      </form>
    </details>
  );
}
