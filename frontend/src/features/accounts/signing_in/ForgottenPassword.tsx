import { useMutation } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { auth } from '@/api/auth';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { Front } from './Front';

/** Ask for a link to choose a new password. It says the same whether there is such an account or not. */
export function ForgottenPassword() {
  const [email, setEmail] = useState('');
  const ask = useMutation({ mutationFn: () => auth('POST', '/auth/password/request', { email }) });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    ask.mutate();
  };
  return (
    <Front>
      <form onSubmit={submit} aria-label="Forgotten password" className="space-y-3">
        <h2 className="text-lg font-semibold">A new password</h2>
        {ask.isSuccess ? (
          <Notice tone="good">
            If {email} has an account here, a letter with a link is on its way. The link works once, for seven
            days.
          </Notice>
        ) : (
          <>
            <TextField
              label="E-mail"
              type="email"
              autoComplete="username"
              required
              autoFocus
              value={email}
              onChange={(event) => setEmail(event.target.value)}
            />
            {ask.isError && <Notice tone="bad">{sentenceOf(ask.error)}</Notice>}
            <Button type="submit" rank="main" size="thumb" disabled={ask.isPending} className="w-full">
              Send me a link
            </Button>
          </>
        )}
        <p className="text-sm">
          <Link to="/sign-in" className="underline">
            To the sign-in
          </Link>
        </p>
      </form>
    </Front>
  );
}
