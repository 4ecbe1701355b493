import { Link } from '@tanstack/react-router';
import { BellRing } from 'lucide-react';
import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from '@/design/Button';
import { usePartsAway, type Matter } from './queries';
import { useNews } from './seen';

const KINDS: Record<Matter['kind'], { one: string; many: string }> = {
  declined: { one: 'declined', many: 'declined' },
  nobody: { one: 'promise with nobody', many: 'promises with nobody' },
  broken: { one: 'promise will not be kept today', many: 'promises will not be kept today' },
  call: { one: 'customer to be called', many: 'customers to be called' },
  message: { one: 'message not delivered', many: 'messages not delivered' },
  mail: { one: 'e-mail not read', many: 'e-mails not read' },
  think: { one: 'thing to think of', many: 'things to think of' },
  paper: { one: 'certificate or inspection runs out', many: 'certificates and inspections run out' },
  stock: { one: 'thing about stock', many: 'things about stock' },
  told: { one: 'thing told from the field to decide', many: 'things told from the field to decide' },
};
const AWAY = {
  worker: 'The worker is away: messages and files wait until it is back. Everything else works.',
  planner: 'The planner is away: no windows, openings and proposals until it is back. Everything else works.',
};

/** How much there is to look at, in the bar; opened, each thing leads to where it is dealt with. */
export function AttentionSign({ matters }: { matters: Matter[] | undefined }) {
  if (!matters?.length) return null;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button
          rank="bar"
          className="bg-copper! text-copper-ink!"
          icon={<BellRing size={15} aria-hidden />}
          aria-label={`${matters.length} to look at`}
          title="What somebody should look at now"
        >
          <span className="figures">{matters.length}</span>
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          aria-label="To look at"
          className="z-40 max-h-[70vh] w-[26rem] overflow-y-auto border border-ink bg-sheet p-3 text-sm text-ink shadow-none"
        >
          {(Object.keys(KINDS) as Matter['kind'][]).map((kind) => (
            <Group key={kind} kind={kind} matters={matters.filter((row) => row.kind === kind)} />
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Group({ kind, matters }: { kind: Matter['kind']; matters: Matter[] }) {
  if (matters.length === 0) return null;
  return (
    <section className="mb-2">
      <h3 className="text-xs font-semibold text-ink-soft">{counted(kind, matters.length)}</h3>
      <ul className="divide-y divide-hairline">
        {matters.map((row) => (
          <li key={row.key} className="py-1">
            <Popover.Close asChild>
              <Where matter={row}>
                <b className="font-semibold">{row.label}</b> {row.sentence}
              </Where>
            </Popover.Close>
          </li>
        ))}
      </ul>
    </section>
  );
}

const counted = (kind: Matter['kind'], count: number) =>
  `${count} ${count === 1 ? KINDS[kind].one : KINDS[kind].many}`;

interface WhereProps {
  matter: Matter;
  children: ReactNode;
  onClick?: () => void;
}

function Where({ matter, children, ...rest }: WhereProps) {
  const look = { className: 'block hover:underline', ...rest };
  if (matter.kind === 'mail')
    return (
      <Link to="/requests" {...look}>
        {children}
      </Link>
    );
  if (matter.kind === 'told')
    return (
      <Link to="/told" {...look}>
        {children}
      </Link>
    );
  if (matter.kind === 'think' && matter.about?.kind === 'quote')
    return (
      <Link to="/quotes/$quoteId" params={{ quoteId: String(matter.about.id) }} {...look}>
        {children}
      </Link>
    );
  if (matter.kind === 'think')
    return (
      <Link to="/orders/$orderId" params={{ orderId: String(matter.about?.id ?? '') }} {...look}>
        {children}
      </Link>
    );
  if (matter.kind === 'paper')
    return (
      <Link
        to={matter.personId ? '/set-up/people' : '/set-up/vehicles'}
        search={matter.personId ? { person: matter.personId } : {}}
        {...look}
      >
        {children}
      </Link>
    );
  if (matter.stock?.orderId)
    return (
      <Link to="/stock/purchases/$orderId" params={{ orderId: String(matter.stock.orderId) }} {...look}>
        {children}
      </Link>
    );
  if (matter.stock)
    return (
      <Link to="/stock/places/$placeId" params={{ placeId: String(matter.stock.placeId ?? '') }} {...look}>
        {children}
      </Link>
    );
  if (matter.kind === 'message' || matter.kind === 'call' || matter.visitId === null)
    return (
      <Link to="/outbox" {...look}>
        {children}
      </Link>
    );
  return (
    <Link to="/board" search={{ visit: matter.visitId }} {...look}>
      {children}
    </Link>
  );
}

/** A line under the bar for what is new, until somebody has seen it; and for what is away. */
export function Announcements({ who, matters }: { who: string; matters: Matter[] | undefined }) {
  const [news, seen] = useNews(who, matters);
  const away = usePartsAway();
  const [first, ...others] = news;
  return (
    <>
      {away.map((part) => (
        <p key={part} role="status" className="shrink-0 bg-warn-wash px-3 py-1 text-sm">
          {AWAY[part]}
        </p>
      ))}
      {first && (
        <div
          role="status"
          aria-label="New to look at"
          className="flex shrink-0 items-center gap-3 border-b border-warn bg-warn-wash px-3 py-1 text-sm"
        >
          <span className="min-w-0 flex-1 truncate">
            <Where matter={first}>
              <b className="font-semibold">{first.label}</b> {first.sentence}
            </Where>
          </span>
          {others.length > 0 && <span className="whitespace-nowrap">and {others.length} more</span>}
          <Button onClick={seen}>Seen</Button>
        </div>
      )}
    </>
  );
}
