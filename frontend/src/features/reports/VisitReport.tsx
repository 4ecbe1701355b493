import { sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';
import { useLiveReports } from './live';
import { useVisitReport } from './queries';
import { Report } from './Report';

/** The report of one visit, beside what else is known of it. */
export function VisitReport({ visitId }: { visitId: number }) {
  useLiveReports();
  const report = useVisitReport(visitId);
  if (report.isError) return <Notice tone="bad">{sentenceOf(report.error)}</Notice>;
  if (!report.data) return <p className="text-sm text-ink-soft">Fetching…</p>;
  return <Report report={report.data} />;
}
