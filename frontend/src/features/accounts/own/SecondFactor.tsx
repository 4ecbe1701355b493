import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { stamp } from '@/shared/time';
import { FactorCodes } from './FactorCodes';
import { FactorSetUp } from './FactorSetUp';
import { PasswordFirst } from './PasswordFirst';
import { useFactors, useSetFactor } from './queries';

type Wanted = 'set up' | 'remove' | 'codes';

/** A code from one's phone besides the password: set up, renewed, removed. */
export function SecondFactor() {
  const factors = useFactors();
  const [wanted, setWanted] = useState<Wanted | null>(null);
  const [given, setGiven] = useState(false);
  const totp = factors.data?.find((row) => row.type === 'totp');
  const codes = factors.data?.find((row) => row.type === 'recovery_codes');
  const passkey = factors.data?.some((row) => row.type === 'webauthn');
  const leave = () => {
    setWanted(null);
    setGiven(false);
  };
  return (
    <section aria-labelledby="second-factor" className="space-y-2">
      <h2 id="second-factor" className="font-semibold">
        Second factor
      </h2>
      {factors.isError && <Notice tone="bad">{sentenceOf(factors.error)}</Notice>}
      {factors.isSuccess && !totp && !passkey && (
        <p className="text-sm">
          None. With one, signing in takes your password and a code from your phone: a stolen password alone
          opens nothing.
        </p>
      )}
      {totp && (
        <p className="text-sm">
          On since {stamp(totp.created_at)}. {codes?.unused_code_count ?? 0} recovery codes are left.
        </p>
      )}
      {!totp && passkey && (
        <p className="text-sm">
          You have a passkey. For the day its device is lost: {codes?.unused_code_count ?? 0} recovery codes
          are left.
        </p>
      )}
      {wanted === null && (
        <div className="flex gap-2">
          {!totp && <Button onClick={() => setWanted('set up')}>Set up a second factor</Button>}
          {(totp || passkey) && <Button onClick={() => setWanted('codes')}>New recovery codes</Button>}
          {totp && <Button onClick={() => setWanted('remove')}>Remove the second factor</Button>}
        </div>
      )}
      {wanted !== null && !given && <PasswordFirst onGiven={() => setGiven(true)} onLeave={leave} />}
      {wanted === 'set up' && given && <FactorSetUp onDone={leave} />}
      {wanted === 'codes' && given && <FactorCodes onDone={leave} />}
      {wanted === 'remove' && given && <Removal onDone={leave} />}
    </section>
  );
}

function Removal({ onDone }: { onDone: () => void }) {
  const { remove } = useSetFactor();
  const done = () => {
    toast.success('Your password alone opens your account again.');
    onDone();
  };
  return (
    <div className="space-y-2">
      {remove.isError && <Notice tone="bad">{sentenceOf(remove.error)}</Notice>}
      <div className="flex gap-2">
        <Button
          rank="main"
          disabled={remove.isPending}
          onClick={() => remove.mutate(undefined, { onSuccess: done })}
        >
          Remove it
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Cancel
        </Button>
      </div>
    </div>
  );
}
