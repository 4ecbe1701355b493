import type { SchemaArchiveOut } from '@/api/types';

export function sizeInWords(bytes: number): string {
  if (bytes < 1024 ** 2) return `${Math.max(1, Math.round(bytes / 1024))} KB`;
  return bytes < 1024 ** 3 ? `${Math.round(bytes / 1024 ** 2)} MB` : `${(bytes / 1024 ** 3).toFixed(1)} GB`;
}

/** How far an archive is. */
export function stateInWords(row: Pick<SchemaArchiveOut, 'way' | 'state' | 'rows' | 'failure'>): string {
  const made = row.way === 'out';
  switch (row.state) {
    case 'waiting':
      return 'waits';
    case 'running':
      return made ? 'is being made…' : 'is being brought in…';
    case 'failed':
      return row.failure || 'failed';
    default:
      return `${made ? 'made' : 'brought in'}, ${row.rows.toLocaleString('en-GB')} rows`;
  }
}
