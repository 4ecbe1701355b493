import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, data, sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';

const DUTIES: Record<string, string> = {
  dispatcher: 'plans the day on the board',
  technician: 'works from a phone',
  intake: 'takes the calls',
  manager: 'sees and plans everything',
  reviewer: 'checks what was done',
  administrator: 'may do everything',
};

export function SignIn({ demo }: { demo: boolean }) {
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const signIn = useMutation({
    mutationFn: (body: { email: string; password: string }) => data(api.POST('/api/v1/session', { body })),
    onSuccess: (session) => window.location.assign(session.account?.role === 'technician' ? '/field' : '/'),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate({ email, password });
  };
  return (
    <main className="mx-auto grid min-h-full max-w-4xl content-center gap-10 p-6 md:grid-cols-2">
      <section>
        <Line />
        <h1 className="mt-5 text-4xl font-bold tracking-tight">Iron Relay</h1>
        <p className="mt-2 max-w-sm text-ink-soft">
          From the caller to the office to the van and back: every promise handed on, none dropped.
        </p>
        <form onSubmit={submit} className="mt-6 max-w-sm space-y-3">
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
        </form>
      </section>
      {demo && (
        <DemoPeople
          busy={signIn.isPending}
          onChoose={(chosen, secret) => signIn.mutate({ email: chosen, password: secret })}
        />
      )}
    </main>
  );
}

function DemoPeople({
  busy,
  onChoose,
}: {
  busy: boolean;
  onChoose: (email: string, password: string) => void;
}) {
  const demo = useQuery({ queryKey: ['demo'], queryFn: () => data(api.GET('/api/v1/session/demo')) });
  if (!demo.data) return null;
  const { accounts, password } = demo.data;
  return (
    <section aria-labelledby="demo-people">
      <h2 id="demo-people" className="text-lg font-semibold">
        The people of the demo
      </h2>
      <p className="mt-1 text-sm text-ink-soft">
        Hallam &amp; Reyne look after the lifts and doors of Varnholm. Choose who you are; the password is{' '}
        <span className="figures">{password}</span>.
      </p>
      <ul className="mt-3 divide-y divide-hairline border-y border-hairline">
        {accounts.map((account) => (
          <li key={account.email}>
            <button
              type="button"
              disabled={busy}
              onClick={() => onChoose(account.email, password)}
              className="flex w-full items-baseline justify-between gap-4 px-2 py-2.5 text-left hover:bg-wash"
            >
              <span className="font-semibold">{account.name}</span>
              <span className="text-sm text-ink-soft">
                {account.role}, {DUTIES[account.role]}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The product's own sign: a day as a line with stations on it. */
function Line() {
  return (
    <svg viewBox="0 0 260 40" className="w-64" aria-hidden>
      <path d="M4 26h30M78 26h40M170 26h24M238 26h18" stroke="var(--ink)" strokeWidth="2.5" />
      <path d="M4 18v16M256 18v16" stroke="var(--ink)" strokeWidth="2.5" />
      <rect x="34" y="16" width="44" height="20" fill="var(--wash)" stroke="var(--ink)" />
      <rect x="118" y="16" width="52" height="20" fill="var(--ink)" />
      <rect x="194" y="16" width="44" height="20" fill="none" stroke="var(--ink)" strokeDasharray="4 3" />
      <circle cx="144" cy="6" r="5" fill="var(--copper)" />
    </svg>
  );
}
