import { useMutation } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { auth } from '@/api/auth';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { hasPasskeys, provePasskey } from '../passkeys';

interface Props {
  /** The kinds of factors this account has. */
  factors: readonly string[];
  onBack: () => void;
}

/** What comes after the password, for who has a second factor: a passkey, or a code. */
export function SecondStep({ factors, onBack }: Props) {
  const [code, setCode] = useState('');
  const send = useMutation({
    mutationFn: () => auth('POST', '/auth/2fa/authenticate', { code: code.replace(/\s/g, '') }),
    onSuccess: goIn,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate();
  };
  const byPasskey = factors.includes('webauthn') && hasPasskeys();
  return (
    <form onSubmit={submit} aria-label="Second step" className="space-y-3">
      {byPasskey && <ByPasskey />}
      <TextField
        label="Code"
        hint={
          factors.includes('totp')
            ? 'The six digits your authenticator app shows now, or one of your recovery codes.'
            : 'One of your recovery codes.'
        }
        inputMode="numeric"
        autoComplete="one-time-code"
        autoFocus
        required
        value={code}
        onChange={(event) => setCode(event.target.value)}
      />
      {send.isError && <Notice tone="bad">{sentenceOf(send.error)}</Notice>}
      <Button
        type="submit"
        rank={byPasskey ? 'plain' : 'main'}
        size="thumb"
        disabled={send.isPending}
        className="w-full"
      >
        {send.isPending ? 'Signing in…' : 'Sign in'}
      </Button>
      <Button rank="quiet" onClick={onBack}>
        Back
      </Button>
      <p className="text-sm text-ink-soft">
        Phone, passkey and recovery codes lost? An administrator of your company can remove your second
        factor.
      </p>
    </form>
  );
}

// The front door leads on to where one works.
const goIn = () => window.location.assign('/');

function ByPasskey() {
  const prove = useMutation({ mutationFn: () => provePasskey('authenticate'), onSuccess: goIn });
  return (
    <>
      <Button
        rank="main"
        size="thumb"
        className="w-full"
        disabled={prove.isPending}
        onClick={() => prove.mutate()}
      >
        Use your passkey
      </Button>
      {prove.isError && <Notice tone="bad">{sentenceOf(prove.error)}</Notice>}
    </>
  );
}
