import { useMutation } from '@tanstack/react-query';
import { Link, useSearch } from '@tanstack/react-router';
import { useEffect, useState, type FormEvent } from 'react';
import { auth, FirstThis } from '@/api/auth';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { useSession } from '@/features/people';
import { DemoPeople } from './DemoPeople';
import { Front } from './Front';
import { OtherWays } from './OtherWays';
import type { SignInSearch } from './search';
import { SecondStep } from './SecondStep';

export function SignIn() {
  const { demo, directory = '' } = useSession();
  const { from, error: refusal } = useSearch({ strict: false }) as SignInSearch;
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const { signIn, factors, setFactors } = useSignIn();
  useComingBack(from === 'directory' && !refusal, setFactors);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate({ email, password });
  };
  if (factors)
    return (
      <Front>
        <SecondStep factors={factors} onBack={() => setFactors(null)} />
      </Front>
    );
  const people = demo && (
    <DemoPeople
      busy={signIn.isPending}
      onChoose={(chosen, secret) => signIn.mutate({ email: chosen, password: secret })}
    />
  );
  return (
    <Front beside={people}>
      <form onSubmit={submit} className="space-y-3">
        <TextField
          label="E-mail"
          type="email"
          autoComplete="username"
          required
          value={email}
          onChange={(e) => setEmail(e.target.value)}
        />
        <TextField
          label="Password"
          type="password"
          autoComplete="current-password"
          required
          value={password}
          onChange={(e) => setPassword(e.target.value)}
        />
        {signIn.isError && <Notice tone="bad">{sentenceOf(signIn.error)}</Notice>}
        <Button type="submit" rank="main" size="thumb" disabled={signIn.isPending} className="w-full">
          {signIn.isPending ? 'Signing in…' : 'Sign in'}
        </Button>
        <p className="text-sm">
          <Link to="/new-password" className="underline">
            Forgot the password?
          </Link>
        </p>
      </form>
      <OtherWays directory={directory} refusal={refusal} />
    </Front>
  );
}

function useSignIn() {
  const [factors, setFactors] = useState<readonly string[] | null>(null);
  const signIn = useMutation({
    mutationFn: (body: { email: string; password: string }) => auth('POST', '/auth/login', body),
    // The front door leads on to where one works.
    onSuccess: () => window.location.assign('/'),
    onError: (error) => setFactors(secondStepOf(error)),
  });
  return { signIn, factors, setFactors };
}

/** The factors of an account whose second step comes next; null: something else is the matter. */
const secondStepOf = (error: unknown) =>
  error instanceof FirstThis && error.step === 'second_step' ? error.factors : null;

/** Who comes back from the directory is in, or has a second step to take. */
function useComingBack(back: boolean, onSecondStep: (factors: readonly string[] | null) => void) {
  const { mutate } = useMutation({
    mutationFn: () => auth('GET', '/auth/session'),
    onSuccess: () => window.location.assign('/'),
    onError: (error) => onSecondStep(secondStepOf(error)),
  });
  useEffect(() => {
    if (back) mutate();
  }, [back, mutate]);
}
