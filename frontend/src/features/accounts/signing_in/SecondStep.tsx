import { useMutation } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { auth } from '@/api/auth';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';

/** The code after the password, for who has a second factor. */
export function SecondStep({ onBack }: { onBack: () => void }) {
  const [code, setCode] = useState('');
  const send = useMutation({
    mutationFn: () => auth('POST', '/auth/2fa/authenticate', { code: code.replace(/\s/g, '') }),
    onSuccess: () => window.location.assign('/'),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate();
  };
  return (
    <form onSubmit={submit} aria-label="Second step" className="space-y-3">
      <TextField
        label="Code"
        hint="The six digits your authenticator app shows now, or one of your recovery codes."
        inputMode="numeric"
        autoComplete="one-time-code"
        autoFocus
        required
        value={code}
        onChange={(event) => setCode(event.target.value)}
      />
      {send.isError && <Notice tone="bad">{sentenceOf(send.error)}</Notice>}
      <Button type="submit" rank="main" size="thumb" disabled={send.isPending} className="w-full">
        {send.isPending ? 'Signing in…' : 'Sign in'}
      </Button>
      <Button rank="quiet" onClick={onBack}>
        Back
      </Button>
      <p className="text-sm text-ink-soft">
        Phone and recovery codes lost? An administrator of your company can remove your second factor.
      </p>
    </form>
  );
}
