import { sentenceOf } from '@/api/client';
import type { SchemaOfferOut, SchemaOffersOut } from '@/api/types';
import { DayBox } from '@/design/DayField';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { serverNow } from '@/shared/clock';
import { addDays, clockTime, dayName, isoDay } from '@/shared/time';
import { shownOffers, type Window, type Wish } from './model';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

interface Props {
  answer: SchemaOffersOut | undefined;
  asking: boolean;
  error: unknown;
  wish: Wish;
  onWish: (wish: Wish) => void;
  byTime: boolean;
  onByTime: (byTime: boolean) => void;
  more: boolean;
  onMore: () => void;
  taken: Window | null;
  onTake: (window: Window | null) => void;
  /** Whether Alt with its number takes a window. */
  keyed?: boolean;
}

/** Windows that can be kept, best first, each with its reasons; and where there are none, why, and what would help. */
export function OfferList(props: Props) {
  const { answer, wish, onWish, taken, onTake, byTime, more } = props;
  const offers = shownOffers(answer, byTime, more);
  const rest = (answer?.offers.length ?? 0) - offers.length;
  return (
    <div className="@container">
      <WishBar wish={wish} onWish={onWish} byTime={byTime} onByTime={props.onByTime} />
      {props.error !== null && props.error !== undefined && (
        <Notice tone="warn">{sentenceOf(props.error)} The order can still be made without a promise.</Notice>
      )}
      <div
        role="radiogroup"
        aria-label="Windows that can be kept"
        // The room of the rows is kept while they are looked for: what stands below does not jump from the pointer.
        className={`mt-1 border-y border-hairline ${props.asking && !answer ? 'min-h-60' : ''}`}
      >
        {offers.map((offer, index) => (
          <OfferRow
            key={`${offer.start} ${offer.end}`}
            offer={offer}
            number={index + 1}
            keyed={props.keyed ?? false}
            best={offer.recommended && offer === answer?.offers[0]}
            scored={answer?.recommend ?? true}
            taken={taken?.start === offer.start && taken.end === offer.end}
            onTake={() => onTake({ start: offer.start, end: offer.end })}
          />
        ))}
      </div>
      <p className="mt-1 flex items-center gap-2 text-xs text-ink-soft" role="status">
        {props.asking && !answer
          ? 'Looking for windows…'
          : answer
            ? `${answer.offers.length} of ${answer.looked_at} windows can be kept`
            : ''}
        {answer && <span className="figures">· checked in {answer.milliseconds} ms</span>}
        {rest > 0 && (
          <Button rank="quiet" onClick={props.onMore}>
            {rest} more
          </Button>
        )}
        {taken && (
          <Button rank="quiet" onClick={() => onTake(null)}>
            No promise
          </Button>
        )}
      </p>
      {answer && answer.offers.length === 0 && <NoWindow answer={answer} />}
    </div>
  );
}

function OfferRow({
  offer,
  number,
  keyed,
  best,
  scored,
  taken,
  onTake,
}: {
  offer: SchemaOfferOut;
  number: number;
  keyed: boolean;
  /** Of all of them, whichever order they are listed in. */
  best: boolean;
  /** Whether windows are weighed against each other at all. */
  scored: boolean;
  taken: boolean;
  onTake: () => void;
}) {
  const label = `${dayWords(offer.start)} ${clockTime(offer.start)}–${clockTime(offer.end)}`;
  return (
    <div className={`border-b border-hairline last:border-b-0 ${taken ? 'bg-copper-wash' : ''}`}>
      <label className="flex cursor-pointer items-start gap-1.5 px-1.5 py-1">
        <input
          type="radio"
          name="window"
          className="mt-1"
          checked={taken}
          aria-label={`${label}. ${offer.reasons.join('. ')}`}
          onChange={onTake}
        />
        {keyed && (
          <kbd className="figures w-3 pt-0.5 text-xs text-ink-soft" title={`Alt+${number} takes it`}>
            {number <= 9 ? number : ''}
          </kbd>
        )}
        <span className="min-w-0 flex-1 @sm:grid @sm:grid-cols-[6.5rem_1fr] @sm:gap-1.5">
          <span className="font-semibold">
            {dayWords(offer.start)}{' '}
            <span className="figures inline-block @sm:block">
              {clockTime(offer.start)}–{clockTime(offer.end)}
            </span>
          </span>
          <span className="block text-sm">
            {offer.reasons.slice(0, offer.moves.length > 0 ? 4 : 3).join(' · ')}
            {offer.moves.length > 0 && (
              <b className="block text-warn">Other work moves; it is placed at once.</b>
            )}
          </span>
        </span>
        <Merit offer={offer} best={best} scored={scored} />
      </label>
    </div>
  );
}

/** How good it is, in words and points. */
function Merit({ offer, best, scored }: { offer: SchemaOfferOut; best: boolean; scored: boolean }) {
  return (
    <span
      className="figures w-22 shrink-0 text-right text-sm"
      title={Object.entries(offer.parts)
        .map(([part, points]) => `${part} ${points}`)
        .join(', ')}
    >
      {scored && (
        <>
          <span className="block font-sans">{meritWords(offer)}</span>
          <span className="text-xs text-ink-soft">{offer.score} of 100</span>
        </>
      )}
      {best && <span className="block font-sans text-xs font-semibold text-good">best</span>}
    </span>
  );
}

function WishBar({ wish, onWish, byTime, onByTime }: Pick<Props, 'wish' | 'onWish' | 'byTime' | 'onByTime'>) {
  const part = (value: Wish['part'], words: string) => (
    <Button
      aria-pressed={wish.part === value}
      onClick={() => onWish({ ...wish, part: wish.part === value ? '' : value })}
    >
      {words}
    </Button>
  );
  const day = (number: number) => {
    const on = wish.weekdays.includes(number);
    return (
      <button
        key={number}
        type="button"
        aria-pressed={on}
        className={`min-h-8 rounded-sm border px-1.5 text-sm ${on ? 'border-copper bg-copper-wash' : 'border-hairline bg-sheet'}`}
        onClick={() =>
          onWish({
            ...wish,
            weekdays: on ? wish.weekdays.filter((other) => other !== number) : [...wish.weekdays, number],
          })
        }
      >
        {DAYS[number]}
      </button>
    );
  };
  return (
    <div className="flex flex-wrap items-center gap-1" role="group" aria-label="The caller's wish">
      <Button aria-pressed={byTime} onClick={() => onByTime(!byTime)}>
        Earliest first
      </Button>
      {part('morning', 'Mornings')}
      {part('afternoon', 'Afternoons')}
      <span className="mx-0.5 flex gap-0.5">{[0, 1, 2, 3, 4].map(day)}</span>
      <label className="flex items-center gap-1 text-sm">
        not before
        <DayBox
          name="Not before"
          className="w-28"
          value={wish.notBefore}
          onChange={(notBefore) => onWish({ ...wish, notBefore })}
        />
      </label>
    </div>
  );
}

function NoWindow({ answer }: { answer: SchemaOffersOut }) {
  return (
    <Notice tone="warn">
      <p className="font-semibold">No window can be kept.</p>
      <ul className="list-disc pl-4">
        {answer.refusals.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
      {answer.remedies.length > 0 && (
        <>
          <p className="mt-1 font-semibold">It would be possible:</p>
          <ul className="list-disc pl-4">
            {answer.remedies.map((remedy) => (
              <li key={remedy.sentence}>{remedy.sentence}</li>
            ))}
          </ul>
        </>
      )}
    </Notice>
  );
}

/** Points in words; what is not recommended is called nothing good, however near it lies. */
function meritWords({ score, recommended, moves }: SchemaOfferOut): string {
  if (!recommended && moves.length === 0) return 'not recommended';
  if (score >= 75) return 'very good';
  if (score >= 55) return 'good';
  return score >= 35 ? 'fair' : 'poor';
}

function dayWords(at: number): string {
  const day = isoDay(at);
  const today = isoDay(serverNow());
  if (day === today) return 'Today';
  if (day === addDays(today, 1)) return 'Tomorrow';
  return dayName(at);
}
