import { useMutation } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { auth, FirstThis } from '@/api/auth';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { useSession } from '@/features/people';
import { DemoPeople } from './DemoPeople';
import { Front } from './Front';
import { SecondStep } from './SecondStep';

export function SignIn() {
  const { demo } = useSession();
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [asksCode, setAsksCode] = useState(false);
  const signIn = useMutation({
    mutationFn: (body: { email: string; password: string }) => auth('POST', '/auth/login', body),
    // The front door leads on to where one works.
    onSuccess: () => window.location.assign('/'),
    onError: (error) => setAsksCode(error instanceof FirstThis && error.step === 'second_step'),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate({ email, password });
  };
  if (asksCode)
    return (
      <Front>
        <SecondStep onBack={() => setAsksCode(false)} />
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
    </Front>
  );
}
