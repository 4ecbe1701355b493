import type { SchemaUrgentOut } from '@/api/types';
import { Button } from '@/design/Button';
import { serverNow } from '@/shared/clock';
import { clockTime } from '@/shared/time';

interface Props {
  urgent: SchemaUrgentOut;
  busy: boolean;
  /** Makes the order and leads to where it is given to somebody; not for who may not plan. */
  onGive: (() => void) | undefined;
}

/** Work that cannot wait for a window: until when somebody must be there, and who could be first. */
export function UrgentFirst({ urgent, busy, onGive }: Props) {
  const [first] = urgent.first;
  const late = first !== undefined && first.start > urgent.respond_by;
  return (
    <section aria-label="Urgent" role="alert" className="border-l-4 border-bad bg-bad-wash px-3 py-2 text-sm">
      <h3 className="font-semibold">
        Respond within {urgent.minutes} min: by{' '}
        <span className="figures">{clockTime(urgent.respond_by)}</span>. Do not promise a later window first.
      </h3>
      {urgent.first.length === 0 ? (
        <p>Nobody at work now can do it. Call the dispatcher.</p>
      ) : (
        <>
          <p>
            {late
              ? 'Nobody can be there in time. Least late would be:'
              : 'Can be there in time, least costly first:'}
          </p>
          <ol>
            {urgent.first.map((row) => (
              <li key={row.technician_id}>
                <b className="font-semibold">{row.name}</b>{' '}
                <span className="figures">{clockTime(row.start)}</span>
                <span className="text-ink-soft">
                  , in {Math.max(0, Math.round((row.start - serverNow()) / 60))} min · {row.doing}
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
      {onGive ? (
        <Button rank="main" className="mt-1" disabled={busy} onClick={onGive}>
          Make the work order and choose who goes now
        </Button>
      ) : (
        <p>Make the work order without a promise: the dispatcher gives it to somebody at once.</p>
      )}
    </section>
  );
}
