import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { ChevronRight } from 'lucide-react';
import { Button } from '@/design/Button';
import { clockTime } from '@/shared/time';
import { ownLogQuery } from '../queries';
import { factsOfDay, withDay } from '../sync/daylog';
import { oddEntries } from '../sync/days';
import type { Kept } from '../sync/deeds';
import { stillAsked } from './OddOnes';
import { useRecordDay } from './recordDay';

/** How the day stands, above its visits: it begins with one press, and in the evening it asks. */
export function DayStrip({ kept }: { kept: readonly Kept[] }) {
  const asked = useQuery(ownLogQuery).data;
  const record = useRecordDay(asked?.day ?? '');
  if (!asked) return null;
  const log = withDay(asked, kept);
  const before = stillAsked(log.earlier, kept).length;
  if (log.began === null && log.ended === null)
    return (
      <div className="space-y-2 border-b border-hairline p-3">
        {before > 0 && (
          <Link
            to="/field/log"
            className="flex min-h-14 items-center border-l-4 border-warn bg-warn-wash px-3 font-semibold"
          >
            {before === 1 ? 'A day before is not whole' : `${before} days before are not whole`}
          </Link>
        )}
        <Button
          size="thumb"
          className="w-full"
          disabled={record.isPending}
          onClick={() => record.mutate({ kind: 'clock on', body: {} })}
        >
          Begin the day
        </Button>
      </div>
    );
  const odd = oddEntries(factsOfDay(log)).filter(({ key }) => !log.explained.some((row) => row.key === key));
  const open = log.pauses.find(({ until }) => until === null);
  return (
    <Link
      to="/field/log"
      className={`flex min-h-14 items-center border-b border-hairline px-3 ${log.ended !== null && odd.length > 0 ? 'border-l-4 border-l-warn bg-warn-wash font-semibold' : ''}`}
    >
      <span className="flex-1">{wordsOf(log, open?.since, odd.length)}</span>
      <ChevronRight size={20} aria-hidden />
    </Link>
  );
}

function wordsOf(
  { began, ended }: { began: number | null; ended: number | null },
  onBreakSince: number | undefined,
  odd: number,
): string {
  if (ended !== null) {
    const questions = odd === 1 ? 'one question' : `${odd} questions`;
    return `Day ended ${clockTime(ended)}${odd > 0 ? ` · ${questions} about it` : ''}`;
  }
  if (onBreakSince !== undefined) return `On a break since ${clockTime(onBreakSince)}`;
  return `Day begun ${clockTime(began!)}`;
}
