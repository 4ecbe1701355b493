import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaAccountRowOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { stamp } from '@/shared/time';
import { useAccounts } from '../queries';
import { AccountForm } from './AccountForm';
import { InviteForm } from './InviteForm';
import { OneAccount } from './OneAccount';
import { Phones } from './Phones';
import { Roles } from './Roles';

/** Who may sign in, and what they may do. */
export function AccountsPage() {
  if (!may(useSession(), 'manage_accounts'))
    return (
      <div className="p-4">
        <Notice>Who may sign in is decided by an administrator of your company.</Notice>
      </div>
    );
  return <Accounts />;
}

function Accounts() {
  const accounts = useAccounts();
  const [chosen, setChosen] = useState<number | 'new' | null>(null);
  const row = accounts.data?.find((one) => one.id === chosen);
  return (
    <div className="grid h-full min-h-0 grid-cols-[26rem_minmax(0,1fr)]">
      <div className="min-h-0 overflow-y-auto border-r border-hairline">
        <header className="flex items-center justify-between px-3 py-2">
          <h1 className="text-lg font-semibold">Accounts</h1>
          <Button onClick={() => setChosen('new')}>Invite somebody</Button>
        </header>
        {accounts.isError && <Notice tone="bad">{sentenceOf(accounts.error)}</Notice>}
        <ul className="divide-y divide-hairline border-y border-hairline text-sm" aria-label="Accounts">
          {accounts.data?.map((one) => (
            <li key={one.id} className={one.id === chosen ? 'bg-copper-wash' : ''}>
              <button
                type="button"
                aria-current={one.id === chosen}
                className="grid w-full grid-cols-[1fr_7rem_7rem] gap-2 px-3 py-1 text-left hover:bg-wash"
                onClick={() => setChosen(one.id)}
              >
                <b className="truncate font-semibold">{one.name}</b>
                <span className="truncate">{one.role_name}</span>
                <span className="text-ink-soft">{stateOf(one)}</span>
              </button>
            </li>
          ))}
        </ul>
      </div>
      <div className="min-h-0 space-y-6 overflow-y-auto p-4">
        {chosen === 'new' && <InviteForm onInvited={setChosen} onLeave={() => setChosen(null)} />}
        {row && (
          <>
            <AccountForm key={`${row.id} ${row.version}`} row={row} />
            <OneAccount key={row.id} row={row} />
            {row.technician_id !== null && <Phones row={row} />}
          </>
        )}
        {!row && chosen !== 'new' && <Roles />}
      </div>
    </div>
  );
}

function stateOf(row: SchemaAccountRowOut): string {
  if (!row.active) return 'locked out';
  if (!row.joined) return 'invited';
  return row.last_seen ? stamp(row.last_seen) : 'never here';
}
