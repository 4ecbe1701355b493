import { Link, Outlet } from '@tanstack/react-router';
import { LogOut, MoonStar, Sun } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Button } from '@/design/Button';
import { Announcements, AttentionSign, useMatters } from '@/features/attention';
import { may, useSession, useSignOut } from '@/features/people';
import type { SchemaAction } from '@/api/types';
import { useNow } from '@/shared/clock';
import { onConnection, type Connection } from '@/shared/live';
import { clockTime, dayName } from '@/shared/time';
import { useTheme } from './theme';

const PLACES = [
  { to: '/intake', words: 'Intake', action: 'see_orders' },
  { to: '/requests', words: 'Requests', action: 'see_orders' },
  { to: '/board', words: 'Board', action: 'see_board' },
  { to: '/orders', words: 'Orders', action: 'see_orders' },
  { to: '/customers', words: 'Customers', action: 'see_customers' },
  { to: '/capacity', words: 'Capacity', action: 'see_board' },
  { to: '/playbooks', words: 'Playbooks', action: 'see_board' },
  { to: '/outbox', words: 'Outbox', action: 'see_messages' },
  { to: '/set-up/settings', words: 'Set-up', action: 'see_orders' },
] as const satisfies { to: string; words: string; action: SchemaAction }[];

/** The frame of the office: where one is, what time it is, who one is. */
export function Shell() {
  const session = useSession();
  const now = useNow();
  const signOut = useSignOut();
  const [theme, setTheme] = useTheme();
  const matters = useMatters((action) => may(session, action));
  const who = session.account?.email ?? '';
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-11 shrink-0 items-center gap-3 bg-bar px-3 text-bar-ink">
        <Link to="/" className="flex items-center gap-2 font-bold tracking-tight">
          <img src="/mark.svg" alt="" className="size-6" /> Iron Relay
        </Link>
        <nav aria-label="Places" className="flex h-full gap-1">
          {PLACES.filter((place) => may(session, place.action)).map((place) => (
            <Link
              key={place.to}
              to={place.to}
              className="flex items-center border-b-2 border-transparent px-2 text-bar-ink/80 hover:text-bar-ink"
              activeProps={{
                className: 'border-b-copper! text-bar-ink! font-semibold',
                'aria-current': 'page',
              }}
            >
              {place.words}
            </Link>
          ))}
        </nav>
        <LiveSign />
        <span className="ml-auto">
          <AttentionSign matters={matters} />
        </span>
        <p className="text-sm text-bar-ink/80">
          {dayName(now)} <time className="text-bar-ink">{clockTime(now)}</time>
        </p>
        <p className="text-sm">
          {session.account?.name} <span className="text-bar-ink/70">{session.account?.role}</span>
        </p>
        <div className="flex">
          <Button
            rank="bar"
            icon={theme === 'dark' ? <Sun size={16} /> : <MoonStar size={16} />}
            aria-label={theme === 'dark' ? 'Light theme' : 'Dark theme'}
            title={theme === 'dark' ? 'Light theme' : 'Dark theme'}
            onClick={() => setTheme(theme === 'dark' ? 'light' : 'dark')}
          />
          <Button
            rank="bar"
            icon={<LogOut size={16} />}
            aria-label="Sign out"
            title="Sign out"
            onClick={() => signOut.mutate()}
          />
        </div>
      </header>
      <Announcements key={who} who={who} matters={matters} />
      <main className="min-h-0 flex-1">
        <Outlet />
      </main>
    </div>
  );
}

/** Says so when changes of others do not come in. */
function LiveSign() {
  const [state, setState] = useState<Connection>('connecting');
  useEffect(() => onConnection(setState), []);
  if (state !== 'broken') return null;
  return (
    <p role="alert" className="rounded-sm bg-bad px-2 py-0.5 text-sm text-sheet">
      Connection lost: you may not see what others change. Trying again…
    </p>
  );
}
