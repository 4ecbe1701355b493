import { useState } from 'react';
import { serverNow } from '@/shared/clock';
import { isoDay, parseDay } from '@/shared/time';

interface Props {
  /** The day shown, in words. */
  words: string;
  onDay: (day: string) => void;
}

/** The day shown; pressed, another one is typed: it is gone to on Enter, not while it is being typed. */
export function GoToDay({ words, onDay }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  if (typed === null)
    return (
      <h1 className="text-base font-semibold whitespace-nowrap" aria-live="polite">
        <button
          type="button"
          className="min-h-8 min-w-24 rounded-sm px-1 text-center hover:bg-wash"
          title="Go to a day: fri, 2.12, +3"
          onClick={() => {
            setTyped('');
            setWrong(false);
          }}
        >
          {words}
        </button>
      </h1>
    );
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        const day = parseDay(typed, isoDay(serverNow()));
        if (day === null) setWrong(true);
        else {
          setTyped(null);
          onDay(day);
        }
      }}
    >
      <input
        autoFocus
        aria-label="Go to a day"
        aria-invalid={wrong || undefined}
        placeholder="fri, 2.12, +3"
        title={wrong ? 'That is no day: type it like fri, 2.12 or +3' : 'Enter goes there, Esc stays'}
        className="min-h-8 w-32 rounded-sm border border-hairline bg-sheet px-2 aria-invalid:border-bad aria-invalid:bg-bad-wash"
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setWrong(false);
        }}
        onBlur={() => setTyped(null)}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Escape') setTyped(null);
        }}
      />
      {wrong && (
        <span role="alert" className="ml-1 text-xs text-bad">
          no day
        </span>
      )}
    </form>
  );
}
