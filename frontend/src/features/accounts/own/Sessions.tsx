import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { stamp } from '@/shared/time';
import { deviceOf } from './device';
import { useEndSessions, useOwnSessions, type OwnSession } from './queries';

/** Where one is signed in, and out again. */
export function Sessions() {
  const sessions = useOwnSessions();
  const end = useEndSessions();
  const rows = [...(sessions.data ?? [])].sort((a, b) => b.created_at - a.created_at);
  const others = rows.filter((row) => !row.is_current);
  return (
    <section aria-labelledby="sessions" className="space-y-2">
      <h2 id="sessions" className="font-semibold">
        Signed in on
      </h2>
      {sessions.isError && <Notice tone="bad">{sentenceOf(sessions.error)}</Notice>}
      {end.isError && <Notice tone="bad">{sentenceOf(end.error)}</Notice>}
      <ul aria-label="Sessions" className="divide-y divide-hairline border-y border-hairline text-sm">
        {rows.map((row) => (
          <SessionRow key={row.id} row={row} busy={end.isPending} onEnd={() => end.mutate([row.id])} />
        ))}
      </ul>
      {others.length > 1 && (
        <Button disabled={end.isPending} onClick={() => end.mutate(others.map((row) => row.id))}>
          Sign out everywhere else
        </Button>
      )}
    </section>
  );
}

function SessionRow({ row, busy, onEnd }: { row: OwnSession; busy: boolean; onEnd: () => void }) {
  const device = deviceOf(row.user_agent);
  return (
    <li className="flex items-center gap-3 py-1.5">
      <span className="flex-1">
        <b className="font-semibold">{device}</b> <span className="text-ink-soft">from {row.ip}</span>
      </span>
      <span className="text-ink-soft">since {stamp(row.created_at)}</span>
      {row.is_current ? (
        <span className="w-20 text-right">this one</span>
      ) : (
        <Button rank="quiet" disabled={busy} aria-label={`Sign out on ${device}`} onClick={onEnd}>
          Sign out
        </Button>
      )}
    </li>
  );
}
