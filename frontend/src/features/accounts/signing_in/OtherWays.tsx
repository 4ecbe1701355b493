import { useMutation } from '@tanstack/react-query';
import { csrfHeaders, sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { hasPasskeys, provePasskey } from '../passkeys';

/** Where the directory sends people back to: this page looks whether a second step is left. */
const BACK = '/sign-in?from=directory';
const REFUSED: Record<string, string> = {
  signup_closed:
    'There is no account here for whom the directory knows: an administrator of your company invites you.',
  cancelled: 'You came back without signing in.',
  denied: 'You came back without signing in.',
};

interface Props {
  /** What the company's directory is called; empty: there is none. */
  directory: string;
  /** Why the directory brought nobody in. */
  refusal: string | undefined;
}

/** Coming in without a password: by a passkey, or by the company's own directory. */
export function OtherWays({ directory, refusal }: Props) {
  const prove = useMutation({
    mutationFn: () => provePasskey('login'),
    onSuccess: () => window.location.assign('/'),
  });
  if (!directory && !hasPasskeys()) return null;
  return (
    <div className="mt-4 space-y-2 border-t border-hairline pt-3">
      {hasPasskeys() && (
        <Button className="w-full" disabled={prove.isPending} onClick={() => prove.mutate()}>
          Use a passkey instead
        </Button>
      )}
      {prove.isError && <Notice tone="bad">{sentenceOf(prove.error)}</Notice>}
      {directory && (
        // A form, since the answer leads to another site.
        <form method="post" action="/api/auth/browser/v1/auth/provider/redirect">
          <input type="hidden" name="provider" value="directory" />
          <input type="hidden" name="process" value="login" />
          <input type="hidden" name="callback_url" value={BACK} />
          <input type="hidden" name="csrfmiddlewaretoken" value={csrfHeaders()['X-CSRFToken'] ?? ''} />
          <Button type="submit" className="w-full">
            Use {directory} instead
          </Button>
        </form>
      )}
      {refusal && (
        <Notice tone="bad">
          {REFUSED[refusal] ?? 'The directory did not answer as it should. Try again, or use your password.'}
        </Notice>
      )}
    </div>
  );
}
