import { useState } from 'react';
import type { PickedPlace } from '@/features/roads';
import { CallerSearch } from './CallerSearch';
import { NewCustomer } from './NewCustomer';

/** Who something is for, with the site and the asset where they are known. */
export interface Whom {
  customerId: number;
  siteId: number | null;
  assetId: number | null;
}

/** A customer found by typing, or a new one, without leaving the page. */
export function ForWhom({ onChoose }: { onChoose: (whom: Whom) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const [picked, setPicked] = useState<PickedPlace | null>(null);
  const known = (customerId: number, siteId: number | null = null) =>
    onChoose({ customerId, siteId, assetId: null });
  if (typed !== null)
    return (
      <NewCustomer
        typed={typed}
        picked={picked}
        onPick={setPicked}
        onCancel={() => setTyped(null)}
        onKnown={(id) => known(id)}
        onMade={known}
      />
    );
  return (
    <CallerSearch
      onChoose={(caller) => {
        if (caller.kind === 'new') setTyped(caller.typed);
        else if (caller.kind === 'known')
          onChoose({ customerId: caller.customerId, siteId: caller.siteId, assetId: caller.assetId });
      }}
    />
  );
}

interface GivenProps {
  name: string | undefined;
  onAgain: () => void;
}

/** The customer that was chosen. */
export const GivenCustomer = ({ name, onAgain }: GivenProps) => (
  <p>
    For <b>{name ?? '…'}</b>{' '}
    <button type="button" className="px-2 text-sm underline" onClick={onAgain}>
      somebody else
    </button>
  </p>
);
