import { shownPhotos, type Report } from '../sync/report';
import type { Standing } from '../sync/steps';

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
  return missing.length > 0 ? 'Not looked at yet' : 'Looked at';
}
