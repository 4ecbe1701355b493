import { useState, type FormEvent } from 'react';
import type { SchemaAccountRowOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { useSetAccount } from '../queries';

/** Signing in as somebody, to help them. */
export function Help({ row }: { row: SchemaAccountRowOut }) {
  const [because, setBecause] = useState('');
  const { help } = useSetAccount();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    help.mutate({ row, because });
  };
  return (
    <form
      onSubmit={submit}
      aria-label={`Help ${row.name}`}
      className="space-y-1 border-t border-hairline pt-3"
    >
      <p className="text-ink-soft">
        To help, you may go on as {row.name}. They get a letter with what you write here; what you do stands
        under both names.
      </p>
      <div className="flex items-end gap-2">
        <TextField
          label="What for"
          className="flex-1"
          maxLength={300}
          value={because}
          onChange={(event) => setBecause(event.target.value)}
        />
        <Button type="submit" disabled={!because.trim() || help.isPending}>
          Sign in as {row.name}
        </Button>
      </div>
      <FormError error={help.error} />
    </form>
  );
}
