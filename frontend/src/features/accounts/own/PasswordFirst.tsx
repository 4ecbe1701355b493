import { useState, type FormEvent } from 'react';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { useGivePassword } from './queries';

/** Asks for the password once more, and goes on with what was asked for. */
export function PasswordFirst({ onGiven, onLeave }: { onGiven: () => void; onLeave: () => void }) {
  const [password, setPassword] = useState('');
  const give = useGivePassword();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    give.mutate(password, { onSuccess: onGiven });
  };
  return (
    <form onSubmit={submit} aria-label="Password once more" className="max-w-sm space-y-2">
      <TextField
        label="Your password, once more"
        type="password"
        autoComplete="current-password"
        autoFocus
        required
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      {give.isError && <Notice tone="bad">{sentenceOf(give.error)}</Notice>}
      <div className="flex gap-2">
        <Button type="submit" rank="main" disabled={give.isPending}>
          Go on
        </Button>
        <Button rank="quiet" onClick={onLeave}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
