import { Notice } from '@/design/Notice';
import { STEP_WORDS } from '@/shared/signs';
import { stamp } from '@/shared/time';
import { wordsOf } from './model';
import type { Projected, ShownEvent } from './sync/ahead';

/** What was stamped, by everybody; what nobody but this phone knows of says so. */
export function Stamps({ events, several }: { events: ShownEvent[]; several: boolean }) {
  if (events.length === 0) return null;
  return (
    <div>
      <h2 className="text-sm font-semibold text-ink-soft">Stamped so far</h2>
      <ol className="text-sm">
        {events.map((row) => (
          <li key={`${row.step} ${row.at} ${row.by}`}>
            <time>{stamp(row.at)}</time> {several && `${row.by} `}
            {STEP_WORDS[row.step]}
            {row.note && ` “${row.note}”`}
            {row.fate === 'kept' && (
              <span className="text-ink-soft"> · kept by the office, without an effect</span>
            )}
            {row.fate === 'unsent' && <span className="text-ink-soft"> · on this phone</span>}
          </li>
        ))}
      </ol>
    </div>
  );
}

/** What contradicts the office's records: it was done, it is kept, and somebody decides what becomes of it. */
export function Waiting({ waiting }: { waiting: Projected['waiting'] }) {
  if (waiting.length === 0) return null;
  return (
    <Notice tone="warn">
      The visit was changed at the office meanwhile. What you did is kept, and the office decides about it:
      <Why rows={waiting} />
    </Notice>
  );
}

/** What could not be taken in, whoever decides: with its words, so that nothing of it has to be remembered. */
export function Refused({ refused }: { refused: Projected['refused'] }) {
  if (refused.length === 0) return null;
  return (
    <Notice tone="bad">
      The office could not take this in. Record it again in another way:
      <Why rows={refused} />
    </Notice>
  );
}

const Why = ({ rows }: { rows: Projected['waiting'] }) => (
  <ul>
    {rows.map(({ deed, sentence }) => (
      <li key={deed.id}>
        <time>{stamp(Math.floor(deed.happenedAt / 1000))}</time> {wordsOf(deed)}: {sentence}
      </li>
    ))}
  </ul>
);
