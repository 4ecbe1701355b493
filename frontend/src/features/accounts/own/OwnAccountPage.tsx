import { Link } from '@tanstack/react-router';
import { useSession } from '@/features/people';
import { Passkeys } from './Passkeys';
import { PasswordChange } from './PasswordChange';
import { SecondFactor } from './SecondFactor';
import { Sessions } from './Sessions';

/** One's own account: password, second factor, and where one is signed in. */
export function OwnAccountPage() {
  const { account } = useSession();
  if (!account) return null;
  return (
    <main className="mx-auto max-w-2xl space-y-8 p-4">
      <header className="space-y-1">
        <Link to="/" className="text-sm underline">
          Back to work
        </Link>
        <h1 className="text-lg font-semibold">Your account</h1>
        <p className="text-ink-soft">
          {account.name}, {account.role_name}. You sign in as {account.email}.
        </p>
      </header>
      <PasswordChange />
      <SecondFactor />
      <Passkeys />
      <Sessions />
    </main>
  );
}
