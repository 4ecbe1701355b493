import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaBehindOut, SchemaOutlookOut } from '@/api/types';
import { Notice } from '@/design/Notice';
import { dayName, window_ } from '@/shared/time';
import { useBehind } from '../queries';
import { hours } from './hours';

interface Props {
  title: string;
  /** Null: the whole company. */
  areaId: number | null;
  skill: string;
  cell: SchemaOutlookOut;
}

/** The work behind the hours of one area and day: who is there, what is promised, what usually comes in. */
export function Behind({ title, areaId, skill, cell }: Props) {
  const behind = useBehind(cell.day, areaId, skill);
  return (
    <>
      <h2 className="font-semibold">{title}</h2>
      <p className="figures mb-2 text-ink-soft">
        {hours(cell.free)} free − {hours(cell.promised)} promised − {hours(cell.expected)} expected ={' '}
        <b className="text-ink">{hours(cell.left)} h left</b>
      </p>
      {behind.isPending && <p className="text-ink-soft">Looking…</p>}
      {behind.isError && <Notice tone="bad">{sentenceOf(behind.error)}</Notice>}
      {behind.data && <Parts found={behind.data} cell={cell} whole={areaId === null} />}
    </>
  );
}

interface PartsProps {
  found: SchemaBehindOut;
  cell: SchemaOutlookOut;
  whole: boolean;
}

function Parts({ found, cell, whole }: PartsProps) {
  return (
    <div className="space-y-3">
      <Part
        title={`Promised without a technician: ${hours(cell.promised)} h`}
        none="Everything promised has a technician."
      >
        {found.promised.map((row) => (
          <Row
            key={row.visit_id}
            figure={hours(row.seconds)}
            to={
              <Link to="/board" search={{ day: cell.day, visit: row.visit_id }} className="underline">
                {row.number} {row.site}
              </Link>
            }
          >
            {row.title}, {window_(row.promise, cell.day)}
          </Row>
        ))}
      </Part>
      <Expected found={found} cell={cell} />
      <Free found={found} cell={cell} whole={whole} />
    </div>
  );
}

const Expected = ({ found, cell }: Pick<PartsProps, 'found' | 'cell'>) => (
  <Part
    title={`Expected at short notice: ${hours(cell.expected)} h`}
    none={`Nothing came in at short notice on such a day in the last ${found.weeks} weeks.`}
  >
    {found.expected.length > 0 && (
      <li className="py-1 text-ink-soft">
        Of {hours(found.expected.reduce((sum, row) => sum + row.seconds, 0))} h that came in on such days in{' '}
        {found.weeks} weeks, one {found.weeks}th:
      </li>
    )}
    {found.expected.map((row) => (
      <Row
        key={`${row.order_id} ${row.start}`}
        figure={hours(row.seconds)}
        to={
          <Link to="/orders/$orderId" params={{ orderId: String(row.order_id) }} className="underline">
            {row.number} {row.site}
          </Link>
        }
      >
        {dayName(row.start)}
      </Row>
    ))}
  </Part>
);

const Free = ({ found, cell, whole }: PartsProps) => (
  <Part title={`Free: ${hours(cell.free)} of ${hours(cell.shifts)} h`} none="Nobody works there that day.">
    {found.workers.map((row) => (
      <Row
        key={row.technician_id}
        figure={hours(row.working_here - row.taken_here)}
        to={
          <Link to="/board" search={{ day: cell.day, person: row.technician_id }} className="underline">
            {row.name}
          </Link>
        }
      >
        {hours(row.working)} h of work, {hours(row.taken)} taken
        {!whole && row.areas > 1 && `, shared over ${row.areas} areas`}
      </Row>
    ))}
  </Part>
);

function Part({ title, none, children }: { title: string; none: string; children: ReactNode[] | ReactNode }) {
  const empty = Array.isArray(children) && children.flat().every((child) => !child);
  return (
    <section aria-label={title}>
      <h3 className="text-xs font-semibold text-ink-soft">{title}</h3>
      {empty ? <p>{none}</p> : <ul className="divide-y divide-hairline">{children}</ul>}
    </section>
  );
}

function Row({ figure, to, children }: { figure: string; to: ReactNode; children: ReactNode }) {
  return (
    <li className="grid grid-cols-[1fr_3rem] gap-2 py-1">
      <span>
        {to} <span className="block text-ink-soft">{children}</span>
      </span>
      <span className="figures text-right">{figure}</span>
    </li>
  );
}
