import { QRCodeSVG } from 'qrcode.react';
import { useEffect, useState, type FormEvent } from 'react';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { FactorCodes } from './FactorCodes';
import { useSetFactor } from './queries';

/** A secret for the phone, and a code back from it that shows it has arrived. Then the codes for when it is lost. */
export function FactorSetUp({ onDone }: { onDone: () => void }) {
  const { begin, confirm } = useSetFactor();
  const [code, setCode] = useState('');
  const { mutate } = begin;
  useEffect(() => mutate(), [mutate]);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    confirm.mutate(code.replace(/\s/g, ''));
  };
  if (confirm.isSuccess) return <FactorCodes onDone={onDone} />;
  if (begin.isError) return <Notice tone="bad">{sentenceOf(begin.error)}</Notice>;
  if (!begin.data) return <p className="text-ink-soft">Making a secret…</p>;
  const { secret, totp_url } = begin.data;
  return (
    <form onSubmit={submit} aria-label="Set up a second factor" className="flex flex-wrap gap-4">
      <div className="bg-white p-2">
        <QRCodeSVG value={totp_url} size={148} title="Secret as a picture" />
      </div>
      <div className="max-w-sm flex-1 space-y-2">
        <p className="text-sm">
          Take the picture up with an authenticator app, or type this secret into it:{' '}
          <code className="figures break-all">{secret.match(/.{1,4}/g)!.join(' ')}</code>
        </p>
        <TextField
          label="Code that the app shows now"
          inputMode="numeric"
          autoComplete="one-time-code"
          required
          value={code}
          onChange={(event) => setCode(event.target.value)}
        />
        {confirm.isError && <Notice tone="bad">{sentenceOf(confirm.error)}</Notice>}
        <div className="flex gap-2">
          <Button type="submit" rank="main" disabled={confirm.isPending}>
            Switch it on
          </Button>
          <Button rank="quiet" onClick={onDone}>
            Cancel
          </Button>
        </div>
      </div>
    </form>
  );
}
