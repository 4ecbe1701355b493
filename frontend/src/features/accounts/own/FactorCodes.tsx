import { useEffect } from 'react';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { useSetFactor } from './queries';

/** New recovery codes, shown once: each lets one in once in place of the phone. The former ones are dead. */
export function FactorCodes({ onDone }: { onDone: () => void }) {
  const { codes } = useSetFactor();
  const { mutate } = codes;
  useEffect(() => mutate(), [mutate]);
  if (codes.isError) return <Notice tone="bad">{sentenceOf(codes.error)}</Notice>;
  if (!codes.data) return <p className="text-ink-soft">Making codes…</p>;
  return (
    <div className="space-y-2">
      <p className="text-sm">
        Write these recovery codes down and keep them away from your phone. Each works once, in place of a
        code from the phone. They are not shown again.
      </p>
      <ul aria-label="Recovery codes" className="figures grid max-w-xs grid-cols-2 gap-x-6 gap-y-0.5">
        {codes.data.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <Button rank="main" onClick={onDone}>
        I have written them down
      </Button>
    </div>
  );
}
