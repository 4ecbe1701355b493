import { useQuery } from '@tanstack/react-query';
import { Notice } from '@/design/Notice';
import { sentenceOf } from '@/api/client';
import { clockTime, stamp } from '@/shared/time';
import { whyQuery } from '../queries';

/** Why a visit stands where it stands: who put it there, what speaks for it, how far it could go either way. */
export function WhyHere({ visitId }: { visitId: number }) {
  const why = useQuery(whyQuery(visitId));
  if (why.error && !why.data) return <Notice tone="warn">Why here: {sentenceOf(why.error)}</Notice>;
  if (!why.data) return null;
  const { decided, reasons, slips, likely } = why.data;
  return (
    <section aria-label="Why here" data-testid="why" className="border-t border-hairline pt-3 text-sm">
      <h3 className="text-xs font-semibold text-ink-soft">Why here</h3>
      <p className="mt-1">{reasons.join(' · ')}</p>
      <ul className="mt-1 space-y-0.5 text-ink-soft">
        {slips.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
        {likely && (
          <li title="The day played through many times with lengths and drives as they have varied">
            Begins <Between {...likely} /> in eight of ten tries of this day
          </li>
        )}
        {decided && (
          <li>
            {decided.by} {decided.sentence}, <time>{stamp(decided.at)}</time>
            {decided.note && <>: “{decided.note}”</>}
          </li>
        )}
      </ul>
    </section>
  );
}

function Between({ start, end }: { start: number; end: number }) {
  if (end - start < 60)
    return (
      <>
        at <time>{clockTime(start)}</time>
      </>
    );
  return (
    <>
      between <time>{clockTime(start)}</time> and <time>{clockTime(end)}</time>
    </>
  );
}
