import { Check, CircleHelp, CircleSlash, Info, TriangleAlert } from 'lucide-react';
import type { SchemaVerdictOut } from '@/api/types';
import { clockTime, dayName } from '@/shared/time';

const ICONS = {
  refuses: <CircleSlash size={14} className="mt-0.5 shrink-0 text-bad" aria-label="refused" />,
  asks: <CircleHelp size={14} className="mt-0.5 shrink-0 text-warn" aria-label="asks for a reason" />,
  warns: <TriangleAlert size={14} className="mt-0.5 shrink-0 text-warn" aria-label="warning" />,
  good: <Check size={14} className="mt-0.5 shrink-0 text-good" aria-label="good" />,
  note: <Info size={14} className="mt-0.5 shrink-0 text-ink-soft" aria-label="note" />,
};

interface Props {
  who: string;
  start: number | null;
  /** Several days are shown: the day is said too. */
  several: boolean;
  /** How many are held at once; the others do as this one does. */
  together: number;
  verdict: SchemaVerdictOut | undefined;
  error: string | null;
  /** Beside the pointer, or at the bottom while the keyboard places. */
  at: { x: number; y: number } | null;
  hint?: string;
}

/** What the drop would mean, in words, before it is made. */
export function VerdictSlip({ who, start, several, together, verdict, error, at, hint }: Props) {
  const style = at ? slipPlace(at) : { left: '50%', bottom: 24, transform: 'translateX(-50%)' };
  return (
    <div
      role="status"
      aria-live="polite"
      data-testid="verdict"
      className="pointer-events-none fixed z-50 w-80 rounded-sm border border-ink bg-sheet px-3 py-2 text-sm"
      style={style}
    >
      <div className="flex justify-between gap-3 font-semibold">
        <span className="truncate">{who}</span>
        {start !== null && <time>{`${several ? `${dayName(start)} ` : ''}${clockTime(start)}`}</time>}
      </div>
      {together > 1 ? (
        <p className="mt-1">{together} visits at once: what becomes of each is read before it is done.</p>
      ) : error ? (
        <p className="mt-1 text-bad">{error}</p>
      ) : start === null ? null : verdict ? (
        <ul className="mt-1 space-y-0.5">
          {verdict.reasons
            .map(asShown)
            .slice(0, 7)
            .map((reason) => (
              <li key={reason.sentence} className="flex gap-1.5 leading-snug">
                {ICONS[reason.weight]}
                <span>{reason.sentence}</span>
              </li>
            ))}
          {verdict.reasons.length > 7 && (
            <li className="text-xs text-ink-soft">and {verdict.reasons.length - 7} more</li>
          )}
        </ul>
      ) : (
        <p className="mt-1 text-ink-soft">asking…</p>
      )}
      {hint && <p className="mt-1.5 border-t border-hairline pt-1 text-xs text-ink-soft">{hint}</p>}
    </div>
  );
}

type Reason = SchemaVerdictOut['reasons'][number];

/** A missing length refuses nothing here: it is asked for when the visit is let go. */
const asShown = (reason: Reason): Reason =>
  reason.limit === 'duration'
    ? { ...reason, weight: 'note', sentence: 'No length yet: you are asked for it when you let go' }
    : reason;

/** Beside the pointer, on whichever side has room. */
function slipPlace({ x, y }: { x: number; y: number }) {
  const left = x + 350 > window.innerWidth ? x - 340 : x + 20;
  return y > window.innerHeight * 0.6 ? { left, bottom: window.innerHeight - y + 20 } : { left, top: y + 20 };
}
