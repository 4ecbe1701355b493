import { Link, Outlet, useNavigate } from '@tanstack/react-router';
import { ChevronDown, Search } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Button } from '@/design/Button';
import { Menu, MenuItem, MenuLine } from '@/design/Menu';
import { Announcements, AttentionSign, useMatters } from '@/features/attention';
import { useSignOut } from '@/features/accounts';
import { may, useSession } from '@/features/people';
import { useNow } from '@/shared/clock';
import { openCommandField, useCommandField, useCommandKey } from '@/shared/command';
import { onConnection, type Connection } from '@/shared/live';
import { atTheTop, type Place } from '@/shared/places';
import { clockTime, dayName } from '@/shared/time';
import { useFresh } from './fresh';
import { GoTo } from './GoTo';
import { Helping } from './Helping';
import { useIdle } from './idle';
import { useTheme } from './theme';

/** The frame of the office: where one is, what needs one, what time it is, who one is. */
export function Shell() {
  const session = useSession();
  const now = useNow();
  const [finding, setFinding] = useState(false);
  useCommandKey();
  useFresh();
  const signOut = useSignOut();
  useIdle(session.idle_minutes, () => signOut.mutate());
  useCommandField(() => setFinding(true), { frame: true });
  const matters = useMatters((action) => may(session, action));
  const who = session.account?.email ?? '';
  return (
    <div className="flex h-full flex-col">
      {session.helper && <Helping name={session.account?.name ?? ''} helper={session.helper} />}
      <header className="flex h-11 shrink-0 items-center gap-3 bg-bar px-3 text-bar-ink">
        <Link to="/" className="flex shrink-0 items-center gap-2 font-bold tracking-tight whitespace-nowrap">
          <img src="/mark.svg" alt="" className="size-6" /> Iron Relay
        </Link>
        <nav aria-label="Places" className="flex h-full items-center gap-1">
          {session.account &&
            atTheTop(session.account.role, (action) => may(session, action)).map((group) => (
              <div
                key={group[0]!.group}
                className="flex h-full gap-1 border-l border-bar-ink/25 pl-1 first:border-0 first:pl-0"
              >
                {group.map((place) => (
                  <TopLink key={place.to} place={place} />
                ))}
              </div>
            ))}
          <Button
            rank="bar"
            icon={<Search size={16} />}
            aria-label="Find or do anything"
            title="Find, do or go to anything  Ctrl K"
            onClick={openCommandField}
          />
        </nav>
        <LiveSign />
        <span className="ml-auto">
          <AttentionSign matters={matters} />
        </span>
        <p className="text-sm text-bar-ink/80">
          {dayName(now)} <time className="text-bar-ink">{clockTime(now)}</time>
        </p>
        <PersonMenu />
      </header>
      <Announcements key={who} who={who} matters={matters} />
      <main className="min-h-0 flex-1">
        <Outlet />
      </main>
      <GoTo open={finding} onOpenChange={setFinding} />
    </div>
  );
}

function TopLink({ place }: { place: Place }) {
  return (
    <Link
      to={place.to}
      className="flex items-center border-b-2 border-transparent px-2 text-bar-ink/80 hover:text-bar-ink"
      activeProps={{
        className: 'border-b-copper! text-bar-ink! font-semibold',
        'aria-current': 'page',
      }}
    >
      {place.words}
    </Link>
  );
}

/** Who one is, and what concerns nobody else: the theme, and leaving. */
function PersonMenu() {
  const session = useSession();
  const { account } = session;
  const signOut = useSignOut();
  const navigate = useNavigate();
  const [theme, setTheme] = useTheme();
  if (!account) return null;
  const other = theme === 'dark' ? 'light' : 'dark';
  const trigger = (
    <Button rank="bar" aria-label={`${account.name}, ${account.role_name}`}>
      <span className="flex items-center gap-1.5 text-sm">
        {account.name} <span className="text-bar-ink/70">{account.role_name}</span> <ChevronDown size={14} />
      </span>
    </Button>
  );
  return (
    <Menu trigger={trigger}>
      <MenuItem words={`${other === 'dark' ? 'Dark' : 'Light'} theme`} onSelect={() => setTheme(other)} />
      {may(session, 'work_in_field') && account.technician_id != null && (
        <MenuItem words="My visits, as on the phone" onSelect={() => void navigate({ to: '/field' })} />
      )}
      <MenuItem words="Your account" onSelect={() => void navigate({ to: '/account' })} />
      <MenuLine />
      <MenuItem words="Sign out" onSelect={() => signOut.mutate()} />
    </Menu>
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
