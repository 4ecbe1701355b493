import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { sentenceOf, urlOf } from '@/api/client';
import type { SchemaNeedOut, SchemaPartOfDayOut, SchemaVanOfDayOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { clockTime, dayName, moment } from '@/shared/time';
import { useSupplyCounts, useTonight } from '../queries';
import { Ways } from './Ways';

/** A day's work held against the vans: what each needs, what is missing, and the ways to get it. */
export function TonightPage() {
  const search = useSearch({ strict: false }) as { day?: string };
  const navigate = useNavigate();
  const counts = useSupplyCounts();
  const day = search.day ?? counts.data?.day;
  if (counts.isError)
    return (
      <div className="p-4">
        <Notice tone="bad">{sentenceOf(counts.error)}</Notice>
      </div>
    );
  if (!day) return <p className="p-4 text-ink-soft">One moment…</p>;
  return (
    <div className="space-y-4 p-4">
      <header className="flex flex-wrap items-end gap-4">
        <h1 className="text-lg font-semibold">Parts for {dayName(moment(day, 720))}</h1>
        <DayField
          label="Day"
          className="w-40"
          value={day}
          onChange={(next) => void navigate({ to: '/stock/tonight', search: next ? { day: next } : {} })}
        />
        <a
          className="pb-1.5 text-sm underline"
          href={urlOf('/api/v1/supply/pick-list', {}, { day })}
          target="_blank"
          rel="noreferrer"
        >
          Pick lists of all vans (PDF)
        </a>
      </header>
      <DayOfVans key={day} day={day} />
    </div>
  );
}

function DayOfVans({ day }: { day: string }) {
  const vans = useTonight(day);
  const [all, setAll] = useState(false);
  if (vans.isError) return <Notice tone="bad">{sentenceOf(vans.error)}</Notice>;
  if (!vans.data) return <p className="text-ink-soft">One moment…</p>;
  const lacking = vans.data.filter((row) => row.missing > 0);
  const picking = vans.data.filter((row) => row.missing === 0 && row.picks.length > 0);
  const rest = vans.data.filter((row) => row.missing === 0 && row.picks.length === 0);
  return (
    <>
      <Verdict vans={vans.data} />
      {[...lacking, ...picking].map((row) => (
        <Van key={row.technician_id} row={row} day={day} />
      ))}
      {rest.length > 0 && (
        <Button rank="quiet" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? 'Hide' : 'Show'} the {rest.length === 1 ? 'van that has' : `${rest.length} vans that have`}{' '}
          all they need
        </Button>
      )}
      {all && rest.map((row) => <Van key={row.technician_id} row={row} day={day} />)}
    </>
  );
}

/** How the day stands: what is missing, and of which vans nobody knows. */
function Verdict({ vans }: { vans: SchemaVanOfDayOut[] }) {
  const lacking = vans.filter((row) => row.missing > 0);
  const picking = vans.filter((row) => row.missing === 0 && row.picks.length > 0).length;
  const trusted = vans.filter((row) => !row.counted && row.parts.length > 0).length;
  const count = lacking.reduce((sum, row) => sum + row.missing, 0);
  const trust =
    trusted > 0 &&
    ` Nobody counts ${trusted === 1 ? 'one van' : `${trusted} vans`} that ${trusted === 1 ? 'takes' : 'take'} parts: what they need is taken to be there.`;
  if (vans.every((row) => row.parts.length === 0))
    return <p className="text-sm text-ink-soft">No visit of this day takes a part.</p>;
  if (count === 0)
    return (
      <Notice tone={trusted > 0 ? 'warn' : 'good'}>
        {trusted > 0 ? '' : '✓ '}Nothing is missing: whatever is planned is on the van, or free at the depot
        where the shift starts.{trust}
      </Notice>
    );
  return (
    <p className="text-sm">
      <b className="text-warn">
        {count} part{count > 1 ? 's are' : ' is'} missing
      </b>{' '}
      on {lacking.length} van{lacking.length > 1 ? 's' : ''}; {picking} more{' '}
      {picking === 1 ? 'takes' : 'take'} something along from the depot.{trust}
    </p>
  );
}

function Van({ row, day }: { row: SchemaVanOfDayOut; day: string }) {
  const canMove = may(useSession(), 'move_stock');
  return (
    <section
      aria-label={row.technician}
      className="space-y-1 rounded-sm border border-hairline bg-sheet p-3 text-sm"
    >
      <header className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="font-semibold">{row.technician}</h2>
        {row.van_id && (
          <Link to="/stock/places/$placeId" params={{ placeId: String(row.van_id) }} className="underline">
            {row.van}
          </Link>
        )}
        <span className="text-ink-soft">
          {row.starts ? `from ${clockTime(row.starts)}` : ''}
          {row.depot ? `, starts at ${row.depot}` : ', takes nothing along from a depot'}
          {!row.counted && '; nobody counts this van'}
        </span>
        {row.picks.length > 0 && canMove && (
          <Link
            to="/stock/pick/$technicianId"
            params={{ technicianId: String(row.technician_id) }}
            search={{ day }}
            className="ml-auto inline-flex min-h-8 items-center rounded-sm border border-hairline px-3 hover:bg-wash"
          >
            Pick {row.picks.length} at {row.depot}
          </Link>
        )}
      </header>
      {row.coming.map((one) => (
        <p key={one.id} className="text-ink-soft">
          → {one.quantity} × {one.part} from {one.source} at {clockTime(one.at)}, {one.note}
        </p>
      ))}
      {row.parts.length === 0 ? (
        <p className="text-ink-soft">No visit of the day takes a part.</p>
      ) : (
        <NeedTable rows={row.parts} />
      )}
    </section>
  );
}

/** By part: how many the day takes, from where, and what is missing for which visit. */
const NeedTable = ({ rows }: { rows: SchemaPartOfDayOut[] }) => (
  <table className="w-full" aria-label="Needs of the day">
    <thead>
      <tr className="text-left text-xs text-ink-soft">
        {['Part', 'Takes', 'On the van', 'From the depot', 'Missing'].map((title) => (
          <th key={title} scope="col" className="font-semibold">
            {title}
          </th>
        ))}
      </tr>
    </thead>
    <tbody>
      {[...rows]
        .sort((one, other) => other.missing - one.missing)
        .map((row) => (
          <NeedRow key={row.code} row={row} />
        ))}
    </tbody>
  </table>
);

function NeedRow({ row }: { row: SchemaPartOfDayOut }) {
  return (
    <>
      <tr className="border-t border-hairline">
        <th scope="row" className="w-1/3 text-left font-normal">
          <Link to="/stock/parts/$code" params={{ code: row.code }} className="underline">
            {row.part}
          </Link>
        </th>
        <td className="figures">{row.quantity}</td>
        <td className="figures">{row.van || ''}</td>
        <td className="figures">{row.depot || ''}</td>
        <td className="figures font-semibold text-warn">{row.missing ? `✕ ${row.missing}` : ''}</td>
      </tr>
      {row.visits
        .filter((need) => need.missing > 0)
        .map((need) => (
          <tr key={need.visit_id}>
            <td colSpan={5} className="pb-2 pl-4">
              <Lacking need={need} part={row} />
            </td>
          </tr>
        ))}
    </>
  );
}

const Lacking = ({ need, part }: { need: SchemaNeedOut; part: SchemaPartOfDayOut }) => (
  <div className="space-y-1 border-l-4 border-warn pl-3">
    <p>
      <b>
        {need.missing} × {part.part}
      </b>{' '}
      missing for{' '}
      <Link to="/orders/$orderId" params={{ orderId: String(need.order_id) }} className="underline">
        {need.label}
      </Link>{' '}
      {need.site}
      {need.start ? `, ${clockTime(need.start)}` : ''}
    </p>
    <Ways need={need} code={part.code} />
  </div>
);
