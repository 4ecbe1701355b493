import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { stamp } from '@/shared/time';
import { hasPasskeys } from '../passkeys';
import { PasswordFirst } from './PasswordFirst';
import { useFactors, useSetPasskey, type Factor } from './queries';

type Wanted = { make: true } | { remove: Factor };

/** Signing in with what a device proves, by finger, face or PIN: made, and removed when the device is gone. */
export function Passkeys() {
  const factors = useFactors();
  const [wanted, setWanted] = useState<Wanted | null>(null);
  const [given, setGiven] = useState(false);
  const rows = factors.data?.filter((row) => row.type === 'webauthn') ?? [];
  const leave = () => {
    setWanted(null);
    setGiven(false);
  };
  return (
    <section aria-labelledby="passkeys" className="space-y-2">
      <h2 id="passkeys" className="font-semibold">
        Passkeys
      </h2>
      <p className="text-sm">
        With a passkey a device signs you in by finger, face or PIN. Nobody can guess it or ask you for it.
        Once you have one, your password alone opens nothing.
      </p>
      <ul aria-label="Passkeys" className="divide-y divide-hairline text-sm">
        {rows.map((row) => (
          <li key={row.id} className="flex items-center gap-3 py-1">
            <b className="flex-1 font-semibold">{row.name}</b>
            <span className="text-ink-soft">
              {row.last_used_at ? `last used ${stamp(row.last_used_at)}` : `made ${stamp(row.created_at)}`}
            </span>
            <Button
              rank="quiet"
              disabled={wanted !== null}
              aria-label={`Remove ${row.name}`}
              onClick={() => setWanted({ remove: row })}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      {wanted === null &&
        (hasPasskeys() ? (
          <Button onClick={() => setWanted({ make: true })}>Make a passkey on this device</Button>
        ) : (
          <p className="text-sm text-ink-soft">
            This browser has no passkeys for this address: they belong to a name, like
            https://relay.example.org or http://localhost, not to an address of numbers.
          </p>
        ))}
      {wanted !== null && !given && <PasswordFirst onGiven={() => setGiven(true)} onLeave={leave} />}
      {wanted !== null && given && 'make' in wanted && <Make onDone={leave} />}
      {wanted !== null && given && 'remove' in wanted && <Removal row={wanted.remove} onDone={leave} />}
    </section>
  );
}

function Make({ onDone }: { onDone: () => void }) {
  const { make } = useSetPasskey();
  const [name, setName] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate(name.trim(), {
      onSuccess: () => {
        toast.success('From now on this device signs you in');
        onDone();
      },
    });
  };
  return (
    <form onSubmit={submit} aria-label="A passkey" className="max-w-sm space-y-2">
      <TextField
        label="Name of the passkey"
        hint="So that you know it again, like “office laptop”."
        maxLength={100}
        required
        autoFocus
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      {make.isError && <Notice tone="bad">{sentenceOf(make.error)}</Notice>}
      <div className="flex gap-2">
        <Button type="submit" rank="main" disabled={make.isPending || !name.trim()}>
          {make.isPending ? 'Waiting for the device…' : 'Make it'}
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

function Removal({ row, onDone }: { row: Factor; onDone: () => void }) {
  const { remove } = useSetPasskey();
  return (
    <div className="space-y-2">
      {remove.isError && <Notice tone="bad">{sentenceOf(remove.error)}</Notice>}
      <div className="flex gap-2">
        <Button
          rank="main"
          disabled={remove.isPending}
          onClick={() => remove.mutate(row.id!, { onSuccess: onDone })}
        >
          Remove {row.name}
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Cancel
        </Button>
      </div>
    </div>
  );
}
