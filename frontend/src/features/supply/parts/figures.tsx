import { Link } from '@tanstack/react-router';
import type { SchemaComingOut, SchemaLevelOut } from '@/api/types';
import { dayName, moment } from '@/shared/time';

/** What is coming: how many, when, by which order. */
export const Coming = ({ rows }: { rows: SchemaComingOut[] }) => (
  <>
    {rows.map((one, at) => (
      <span key={one.order_id}>
        {at > 0 && ', '}
        <Link
          to="/stock/purchases/$orderId"
          params={{ orderId: String(one.order_id) }}
          className="figures underline"
        >
          {one.quantity}
          {one.expected_on ? ` on ${dayName(moment(one.expected_on, 720))}` : ''}
        </Link>
      </span>
    ))}
  </>
);

/** Whether less is free and coming than ought to be there. */
export const isBelow = (row: SchemaLevelOut) =>
  row.least != null &&
  row.figures.free + row.figures.coming.reduce((sum, one) => sum + one.quantity, 0) < row.least;
