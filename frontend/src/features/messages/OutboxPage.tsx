import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { useEffect } from 'react';
import { api, data, sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';
import { onChange } from '@/shared/live';
import { stamp } from '@/shared/time';

const KEY = ['messages'] as const;

/** What went out to technicians and customers, the newest first. Here it is simulated: nothing leaves the machine. */
export function OutboxPage() {
  const client = useQueryClient();
  const navigate = useNavigate();
  useEffect(
    () =>
      onChange((change) => {
        if (change.topic === 'message' || change.topic === 'resync')
          void client.invalidateQueries({ queryKey: KEY });
      }),
    [client],
  );
  const outbox = useQuery({ queryKey: KEY, queryFn: () => data(api.GET('/api/messages')) });
  const rows = outbox.data ?? [];
  return (
    <div className="h-full overflow-auto p-4">
      <h1 className="text-lg font-semibold">Outbox</h1>
      <p className="text-sm text-ink-soft">
        Messages to technicians and customers. They go through a simulated service: nothing leaves this
        machine.
      </p>
      {outbox.isError && <Notice tone="bad">{sentenceOf(outbox.error)}</Notice>}
      {outbox.isSuccess && rows.length === 0 && (
        <p className="mt-6 text-ink-soft">Nothing has been sent yet.</p>
      )}
      {rows.length > 0 && (
        <table className="mt-3 w-full max-w-6xl border-collapse text-left text-sm">
          <thead className="border-b border-ink text-xs text-ink-soft">
            <tr>
              {['Written', 'To', 'By', 'Message', 'Order', 'State'].map((head) => (
                <th key={head} className="px-2 py-1 font-semibold">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.id} className="border-b border-hairline align-top">
                <td className="px-2 py-1.5 whitespace-nowrap">
                  <time>{stamp(row.written_at)}</time>
                </td>
                <td className="px-2 py-1.5">
                  <span className="font-semibold">{row.name}</span>
                  <span className="block text-xs text-ink-soft">
                    {row.kind}, {row.address}
                  </span>
                </td>
                <td className="px-2 py-1.5">{row.channel}</td>
                <td className="px-2 py-1.5">{row.text}</td>
                <td className="px-2 py-1.5">
                  {row.order && row.visit_id !== null && (
                    <button
                      type="button"
                      className="figures whitespace-nowrap underline"
                      onClick={() => void navigate({ to: '/board', search: { visit: row.visit_id! } })}
                    >
                      {row.order}
                    </button>
                  )}
                </td>
                <td className={`px-2 py-1.5 ${row.state === 'failed' ? 'font-semibold text-bad' : ''}`}>
                  {row.state}
                  {row.state === 'failed' && <span className="block text-xs">{row.reference}</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
