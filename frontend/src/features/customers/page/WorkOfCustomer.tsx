import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { api, data } from '@/api/client';
import type { SchemaCustomerVisitOut } from '@/api/types';
import { StateSign } from '@/design/StateSign';
import { isoDay, stamp, window_ } from '@/shared/time';

function useWork(customerId: number) {
  const requests = useQuery({
    queryKey: ['intake', 'requests', 'of', customerId],
    queryFn: () =>
      data(api.GET('/api/v1/requests', { params: { query: { customer_id: customerId } } })).then(
        (page) => page.rows,
      ),
  });
  const orders = useQuery({
    queryKey: ['orders', 'of', customerId],
    queryFn: () =>
      data(
        api.POST('/api/v1/orders/list', {
          body: { filters: { customer_id: customerId } as never, sort: 'newest', cursor: '' },
        }),
      ),
  });
  const visits = useQuery({
    queryKey: ['orders', 'visits of', customerId],
    queryFn: () =>
      data(
        api.GET('/api/v1/orders/of/customer/{customer_id}/visits', {
          params: { path: { customer_id: customerId } },
        }),
      ),
  });
  return { requests, orders, visits };
}

/** Open and past requests and orders of a customer. */
export function WorkOfCustomer({ customerId }: { customerId: number }) {
  const { requests, orders, visits } = useWork(customerId);
  const waiting = (requests.data ?? []).filter((row) => row.state === 'new');
  return (
    <section aria-label="Work" className="text-sm">
      {waiting.length > 0 && (
        <>
          <h2 className="font-semibold">Requests that wait · {waiting.length}</h2>
          <ul className="mb-3 divide-y divide-hairline border-y border-hairline">
            {waiting.map((row) => (
              <li key={row.id} className="py-1">
                <Link to="/requests" search={{ id: row.id }} className="hover:underline">
                  <span className="figures">{row.number}</span> {row.what_is_wrong.slice(0, 100)}
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
      <Visits rows={visits.data ?? []} />
      <h2 className="font-semibold">Orders · {orders.data?.total ?? '…'}</h2>
      <table className="w-full text-left">
        <tbody>
          {(orders.data?.rows ?? []).slice(0, 20).map((row) => (
            <tr key={row.id} className="border-t border-hairline">
              <td className="figures py-1 pr-2">
                <Link to="/orders/$orderId" params={{ orderId: String(row.id) }} className="underline">
                  {row.number}
                </Link>
              </td>
              <td className="pr-2">{row.title}</td>
              <td className="pr-2 text-ink-soft">{row.site}</td>
              <td className="pr-2">{row.state.replace('_', ' ')}</td>
              <td className="text-ink-soft">
                {row.promise_start && row.promise_end
                  ? window_({ start: row.promise_start, end: row.promise_end })
                  : stamp(row.made)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {orders.data?.total === 0 && <p className="text-ink-soft">No order yet.</p>}
    </section>
  );
}

/** Each visit: those to come first, then the past ones with what was done. */
function Visits({ rows }: { rows: SchemaCustomerVisitOut[] }) {
  const ahead = rows.filter((row) => !row.over);
  const past = rows.filter((row) => row.over);
  if (rows.length === 0) return null;
  return (
    <>
      <h2 className="font-semibold">Visits to come · {ahead.length}</h2>
      <table className="mb-3 w-full text-left" aria-label="Visits to come">
        <tbody>
          {ahead.map((row) => (
            <VisitRow key={row.visit_id} row={row} />
          ))}
        </tbody>
      </table>
      {past.length > 0 && (
        <>
          <h2 className="font-semibold">Past visits · the last {past.length}</h2>
          <table className="mb-3 w-full text-left" aria-label="Past visits">
            <tbody>
              {past.map((row) => (
                <VisitRow key={row.visit_id} row={row} />
              ))}
            </tbody>
          </table>
        </>
      )}
    </>
  );
}

function VisitRow({ row }: { row: SchemaCustomerVisitOut }) {
  const at = row.finished ?? row.start;
  return (
    <tr className="border-t border-hairline align-top">
      <td className="figures py-1 pr-2 whitespace-nowrap">
        <Link
          to="/board"
          search={{ visit: row.visit_id, day: at ? isoDay(at) : undefined }}
          className="underline"
        >
          {row.number}
        </Link>
      </td>
      <td className="pr-2">
        {row.title}
        {row.outcome && <span className="text-ink-soft"> “{row.outcome}”</span>}
      </td>
      <td className="pr-2 text-ink-soft">{row.site}</td>
      <td className="pr-2">
        <StateSign state={row.state} />
      </td>
      <td className="pr-2">{row.technician ?? <span className="text-ink-soft">nobody</span>}</td>
      <td className="whitespace-nowrap text-ink-soft">
        {at ? stamp(at) : row.promise ? `promised ${window_(row.promise)}` : 'no time'}
      </td>
    </tr>
  );
}
