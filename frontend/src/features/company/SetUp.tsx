import { Link, Outlet } from '@tanstack/react-router';
import { may, useSession } from '@/features/people';

const PAGES = [
  { to: '/set-up/first-steps', words: 'First steps' },
  { to: '/set-up/company', words: 'Company' },
  { to: '/set-up/settings', words: 'Settings' },
  { to: '/set-up/people', words: 'Technicians' },
  { to: '/set-up/skills-of-everybody', words: 'Who can do what' },
  { to: '/set-up/accounts', words: 'Accounts' },
  { to: '/set-up/depots', words: 'Depots' },
  { to: '/set-up/vehicles', words: 'Vehicles' },
  { to: '/set-up/job-types', words: 'Job types' },
  { to: '/set-up/prices', words: 'Prices' },
  { to: '/set-up/skills', words: 'Skills' },
  { to: '/set-up/certificates', words: 'Certificates' },
  { to: '/set-up/tags', words: 'Tags' },
  { to: '/set-up/fields', words: 'Own fields' },
  { to: '/set-up/areas', words: 'Areas' },
  { to: '/set-up/holidays', words: 'Holidays' },
] as const;

/** How the company works: who it is, its settings, technicians, depots, job types, skills, certificates, tags, own fields, areas, holidays; and files in and out. */
export function SetUp() {
  const session = useSession();
  return (
    <div className="grid h-full min-h-0 grid-cols-[10rem_minmax(0,1fr)]">
      <nav aria-label="Set-up" className="border-r border-hairline bg-sheet py-3">
        {PAGES.map((page) => (
          <Entry key={page.to} to={page.to} words={page.words} />
        ))}
        {may(session, 'plan') && <Entry to="/set-up/days-off" words="Days off" />}
        {may(session, 'change_settings') && <Entry to="/set-up/files" words="From files" />}
        {may(session, 'manage_accounts') && (
          <>
            <Entry to="/set-up/region" words="Region" />
            <Entry to="/set-up/archive" words="Archive" />
          </>
        )}
        {may(session, 'import') && (
          <>
            <Entry to="/customers/files" words="Customer files" />
            <Entry to="/open-work" words="Open work" />
          </>
        )}
      </nav>
      <div className="min-h-0 overflow-y-auto">
        <Outlet />
      </div>
    </div>
  );
}

function Entry({ to, words }: { to: string; words: string }) {
  return (
    <Link
      to={to}
      className="block border-l-2 border-transparent px-4 py-1.5 text-sm hover:bg-wash"
      activeProps={{ className: 'border-l-copper! font-semibold', 'aria-current': 'page' }}
    >
      {words}
    </Link>
  );
}
