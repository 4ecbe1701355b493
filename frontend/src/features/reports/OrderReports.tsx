import { sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';
import { StateSign } from '@/design/StateSign';
import { useLiveReports } from './live';
import { useOrderReports } from './queries';
import { Report } from './Report';

/** What was recorded at the visits of an order. */
export function OrderReports({ orderId }: { orderId: number }) {
  useLiveReports();
  const reports = useOrderReports(orderId);
  return (
    <section aria-label="Reports">
      <h2 className="mb-1 font-semibold">{reports.data && reports.data.length > 1 ? 'Reports' : 'Report'}</h2>
      {reports.isError && <Notice tone="bad">{sentenceOf(reports.error)}</Notice>}
      {reports.isPending && <p className="text-sm text-ink-soft">Fetching…</p>}
      <div className="space-y-4">
        {reports.data?.map((report) => (
          <article key={report.visit_id} className="max-w-2xl">
            {reports.data.length > 1 && (
              <h3 className="flex items-center gap-2 text-sm font-semibold">
                Visit {report.part} <StateSign state={report.state as 'done'} /> {report.technician}
              </h3>
            )}
            <Report report={report} />
          </article>
        ))}
      </div>
    </section>
  );
}
