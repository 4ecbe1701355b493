import { useMutation, useQuery } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { auth, FirstThis } from '@/api/auth';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { Front } from './Front';
import { SecondStep } from './SecondStep';

interface Known {
  user: { display: string; email: string };
}

/** With the link of a letter that was asked for. */
export const ChoosePassword = () => <WithLink invited={false} />;
/** With the link of an invitation. */
export const Welcome = () => <WithLink invited />;

function WithLink({ invited }: { invited: boolean }) {
  const { key } = useParams({ strict: false }) as { key: string };
  const known = useQuery({
    queryKey: ['password-link', key],
    retry: false,
    queryFn: () =>
      auth<Known>('GET', '/auth/password/reset', undefined, { 'X-Password-Reset-Key': key }).then(
        (answer) => answer.data.user,
      ),
  });
  return (
    <Front>
      <h2 className="mb-3 text-lg font-semibold">{invited ? 'Welcome' : 'A new password'}</h2>
      {known.isError && (
        <div className="space-y-3">
          <Notice tone="bad">{sentenceOf(known.error)}</Notice>
          <p className="text-sm">{invited ? 'Ask whoever invited you for another one.' : <AskAgain />}</p>
        </div>
      )}
      {known.isPending && <p className="text-ink-soft">Looking at the link…</p>}
      {known.data && <PasswordForm link={key} name={known.data.display} email={known.data.email} />}
    </Front>
  );
}

const AskAgain = () => (
  <Link to="/new-password" className="underline">
    Ask for another link
  </Link>
);

function PasswordForm({ link, name, email }: { link: string; name: string; email: string }) {
  const [password, setPassword] = useState('');
  const [seen, setSeen] = useState(false);
  const [factors, setFactors] = useState<readonly string[] | null>(null);
  const choose = useMutation({
    mutationFn: () => auth('POST', '/auth/password/reset', { key: link, password }),
    onSuccess: () => window.location.assign('/'),
    onError: (error) => {
      if (!(error instanceof FirstThis)) return;
      if (error.step === 'second_step') setFactors(error.factors);
      else window.location.assign('/sign-in');
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    choose.mutate();
  };
  if (factors) return <SecondStep factors={factors} onBack={() => window.location.assign('/sign-in')} />;
  return (
    <form onSubmit={submit} aria-label="Choose a password" className="space-y-3">
      <p>
        {name}, choose the password with which you sign in as <b>{email}</b>.
      </p>
      {/* For the keeper of passwords in the browser. */}
      <input type="hidden" name="username" autoComplete="username" value={email} />
      <TextField
        label="Password"
        hint="At least ten characters, and none of the usual ones. Several words are good."
        type={seen ? 'text' : 'password'}
        autoComplete="new-password"
        required
        autoFocus
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      <label className="flex items-center gap-1.5 text-sm">
        <input type="checkbox" checked={seen} onChange={(event) => setSeen(event.target.checked)} /> Show it
      </label>
      {choose.isError && !(choose.error instanceof FirstThis) && (
        <Notice tone="bad">{sentenceOf(choose.error)}</Notice>
      )}
      <Button type="submit" rank="main" size="thumb" disabled={choose.isPending} className="w-full">
        Choose this password and sign in
      </Button>
    </form>
  );
}
