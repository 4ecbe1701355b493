import type { ReactNode } from 'react';
import type { SchemaReportOut } from '@/api/types';
import { countedTime, SORTS, type Sort } from '@/shared/presence';
import { length, stamp } from '@/shared/time';

const OUT: Record<string, string> = {
  defective: 'defective, set aside for its supplier',
  kept: 'kept on the van',
  'thrown away': 'thrown away',
};

interface Props {
  report: SchemaReportOut;
  part: (props: { title: string; children: ReactNode }) => ReactNode;
}

/** What the visit took: parts, times, charges, kilometres. */
export function Took({ report: { entries }, part: Part }: Props) {
  const { used, removed, presences, charges, mileages } = entries;
  return (
    <>
      {used.length > 0 && (
        <Part title="Parts">
          <ul>{used.map(usedLine)}</ul>
        </Part>
      )}
      {removed.length > 0 && (
        <Part title="Came out">
          <ul>{removed.map(removedLine)}</ul>
        </Part>
      )}
      {presences.some(({ arrived }) => arrived !== null) && (
        <Part title="Time">
          <ul>
            {presences.map((presence) => (
              <li key={presence.technician_id}>
                {presence.name}: {SORTS.map((sort) => timeWords(entries, presence, sort)).join(', ')}
              </li>
            ))}
          </ul>
        </Part>
      )}
      {charges.length + mileages.length > 0 && (
        <Part title="Charges and kilometres">
          <ul>
            {charges.map((row) => (
              <li key={row.id}>
                {row.quantity / 1000} × {row.words}
              </li>
            ))}
            {mileages.map((row) => (
              <li key={row.by}>
                {row.metres / 1000} km, {row.by}
              </li>
            ))}
          </ul>
        </Part>
      )}
    </>
  );
}

type Entries = SchemaReportOut['entries'];

const usedLine = (row: Entries['used'][number]) => (
  <li key={row.id} title={`${row.by}, ${stamp(row.at)}`}>
    {row.quantity > 0 ? `${row.quantity} × ${row.name}` : `${row.name}: planned, not needed`}
    {row.serials.length > 0 && ` (${row.serials.join(', ')})`}
    {row.source && row.quantity > 0 && (
      <span className="text-ink-soft">
        {' '}
        from {row.source}
        {!row.booked && !row.elsewhere && ', not on the books'}
      </span>
    )}
  </li>
);

const removedLine = (row: Entries['removed'][number]) => (
  <li key={row.id}>
    {row.quantity} × {row.name}
    {row.serial && ` (${row.serial})`}: {OUT[row.what]}
    {row.because && ` – ${row.because}`}
  </li>
);

function timeWords(entries: Entries, presence: Entries['presences'][number], sort: Sort): string {
  const { said, minutes } = countedTime(entries, presence, sort);
  const words = minutes === null ? '–' : length(minutes * 60);
  return `${sort} ${words}${said ? ` (typed: ${said.reason})` : ''}`;
}
