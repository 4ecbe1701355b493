import type { SchemaEffectOut } from '@/api/types';

interface Said {
  words: string;
  tone: 'plain' | 'warn';
}

const counted = (count: number, one: string, many: string) => (count === 1 ? `1 ${one}` : `${count} ${many}`);

/** What granting days off means, in words. */
export function effectInWords(row: SchemaEffectOut): Said[] {
  const said: Said[] = [
    { words: `${counted(row.working_days, 'working day', 'working days')} of capacity go.`, tone: 'plain' },
  ];
  if (row.visits > 0) {
    const promised = row.promised > 0 ? `, ${row.promised} of them promised` : '';
    said.push({
      words: `${counted(row.visits, 'visit stands', 'visits stand')} there${promised}.`,
      tone: 'warn',
    });
  }
  if (row.others.length > 0) said.push({ words: `Also away: ${row.others.join(', ')}.`, tone: 'warn' });
  if (row.kind === 'holiday' && row.holiday_days != null) {
    const left = row.holiday_days - row.holiday_taken - row.working_days;
    said.push({
      words:
        left < 0
          ? `${-left} more than the ${row.holiday_days} days of holiday of the year.`
          : `${left} of ${row.holiday_days} days of holiday are left after it.`,
      tone: left < 0 ? 'warn' : 'plain',
    });
  }
  return said;
}
