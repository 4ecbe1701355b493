import type { SchemaVisitDetailOut } from '@/api/types';
import { STEP_WORDS } from '@/shared/signs';
import { clockTime } from '@/shared/time';

interface Row {
  at: number;
  words: string;
  note: string;
}

/** What comes in later than this after it was done says so, in seconds. */
const LATE = 600;

/** What happened to a visit, the newest first: once each, at the time when it was done. */
export function happened({ history, events }: Pick<SchemaVisitDetailOut, 'history' | 'events'>): Row[] {
  const late = events.filter((row) => row.recorded_at - row.at > LATE);
  const told = history.filter((row) => !late.some((one) => one.recorded_at === row.at && one.by === row.by));
  const own = events.filter((row) => !told.some((other) => other.at === row.at && other.by === row.by));
  return [
    ...told.map((row) => ({ at: row.at, words: `${row.by} ${row.sentence}`, note: row.note })),
    ...own.map((row) => ({
      at: row.at,
      words: `${row.by}: ${STEP_WORDS[row.step]}${late.includes(row) ? `, came in ${clockTime(row.recorded_at)}` : ''}`,
      note: row.note,
    })),
  ].sort((one, other) => other.at - one.at);
}
