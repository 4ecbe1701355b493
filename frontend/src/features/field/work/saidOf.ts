import { shownPhotos, type Report } from '../sync/report';
import type { Standing } from '../sync/steps';

/** The same of what the visit took. */
function saidOfEntries(kind: 'parts' | 'time' | 'charges', missing: string[], { entries }: Report): string {
  if (kind === 'parts') {
    const used = entries.used
      .filter(({ quantity }) => quantity > 0)
      .map((row) => `${row.quantity} × ${row.name}`);
    const open = missing.length > 0 && entries.planned.length > 0 ? `Used or not: ${missing.join(', ')}` : '';
    return [...used, open].filter(Boolean).join('; ') || (missing.length > 0 ? 'Nothing yet' : 'None used');
  }
  if (kind === 'time') return missing.length > 0 ? 'Not looked at yet' : 'Looked at';
  const charged = [
    ...entries.charges.map(({ words }) => words),
    ...entries.mileages.map(({ metres }) => `${metres / 1000} km`),
  ];
  return charged.join(', ') || (missing.length > 0 ? 'Nothing yet' : 'Nothing else is charged');
}

const many = (count: number, one: string) => (count === 1 ? `1 ${one}` : `${count} ${one}s`);

/** How a step stands, in a few words. */
export function saidOf({ kind, missing }: Standing, report: Report): string {
  if (kind === 'tasks') {
    const done = report.tasks.filter(({ at }) => at !== null).length;
    return `${done} of ${report.tasks.length} done`;
  }
  if (kind === 'form') {
    const answered = `${many(report.answers.length, 'answer')}`;
    const needed = missing.filter((words) => words !== 'Nothing is answered');
    return needed.length > 0 ? `${answered}; needed: ${needed.join(', ')}` : answered;
  }
  if (kind === 'photos') {
    const photos = shownPhotos(report.pictures);
    return photos.length > 0 ? many(photos.length, 'photo') : 'No photo yet';
  }
  if (kind === 'notes') return report.notes.length > 0 ? many(report.notes.length, 'note') : 'Nothing yet';
  if (kind === 'acceptance') {
    const said = report.acceptance;
    if (!said) return 'Nobody has signed yet';
    return said.ended === 'signed' ? `Signed by ${said.name}` : 'Nobody signed';
  }
  if (kind === 'parts' || kind === 'time' || kind === 'charges') return saidOfEntries(kind, missing, report);
  return missing.length > 0 ? 'Not looked at yet' : 'Looked at';
}
