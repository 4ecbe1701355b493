import { Link, Outlet } from '@tanstack/react-router';
import type { SchemaAction, SchemaSupplyCountsOut } from '@/api/types';
import { may, useSession } from '@/features/people';
import { useSupplyCounts } from './queries';

interface Tab {
  to: string;
  words: string;
  action: SchemaAction;
  /** How many wait there. */
  count?: (found: SchemaSupplyCountsOut) => number;
  /** What the number counts. */
  of?: string;
}

const TABS: Tab[] = [
  {
    to: '/stock/tonight',
    words: 'Next day',
    action: 'see_stock',
    count: (row) => row.missing,
    of: 'missing',
  },
  { to: '/stock/parts', words: 'Parts', action: 'see_stock' },
  { to: '/stock/places', words: 'Depots and vans', action: 'see_stock' },
  {
    to: '/stock/requests',
    words: 'Asked for',
    action: 'see_stock',
    count: (row) => row.asked,
    of: 'unanswered',
  },
  { to: '/stock/purchases', words: 'Purchases', action: 'order_parts', count: (row) => row.late, of: 'late' },
  { to: '/stock/returns', words: 'Returns', action: 'see_stock', count: (row) => row.aside, of: 'open' },
  { to: '/stock/loans', words: 'Loans', action: 'see_stock', count: (row) => row.overdue, of: 'overdue' },
  { to: '/stock/counts', words: 'Counts', action: 'see_stock' },
  { to: '/stock/suppliers', words: 'Suppliers', action: 'see_stock' },
];

/** The frame of all pages of stock: where one is, and what waits where. */
export function StockFrame() {
  const session = useSession();
  const counts = useSupplyCounts();
  return (
    <div className="flex h-full min-h-0 flex-col">
      <nav
        aria-label="Stock"
        className="flex gap-1 overflow-x-auto border-b whitespace-nowrap sm:flex-wrap border-hairline bg-sheet px-3 pt-1"
      >
        {TABS.filter((tab) => may(session, tab.action)).map((tab) => {
          const number = counts.data && tab.count ? tab.count(counts.data) : 0;
          return (
            <Link
              key={tab.to}
              to={tab.to}
              className="border-b-2 border-transparent px-2 py-1.5 text-sm text-ink-soft hover:text-ink"
              activeProps={{
                className: 'border-b-copper! text-ink! font-semibold',
                'aria-current': 'page',
              }}
            >
              {tab.words}
              {number > 0 && (
                <span className="figures ml-1.5 rounded-sm bg-warn-wash px-1 text-xs font-semibold text-warn">
                  {number} {tab.of}
                </span>
              )}
            </Link>
          );
        })}
      </nav>
      <div className="min-h-0 flex-1 overflow-auto">
        <Outlet />
      </div>
    </div>
  );
}
