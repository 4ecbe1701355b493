import { useState } from 'react';
import { serverNow } from '@/shared/clock';
import { dayName, isoDay, moment, parseDay } from '@/shared/time';
import { TextField } from './Field';

interface Props {
  label: string;
  /** As 2026-12-02; empty: none. */
  value: string;
  onChange: (day: string) => void;
  className?: string;
  hint?: string;
  /** The first day that can be. */
  min?: string;
  required?: boolean;
}

const words = (day: string) => (day ? dayName(moment(day, 12 * 60)) : '');

/**
 * A day, typed the way people say it: "fri", "2.12", "+3". It is read when one leaves the field or presses Enter, never
 * while it is being typed.
 */
export function DayField({ label, value, onChange, className, hint, min, required }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const [error, setError] = useState<string | undefined>();
  const read = () => {
    if (typed === null) return;
    const day = typed.trim() === '' ? '' : parseDay(typed, isoDay(serverNow()));
    if (day === null) {
      setError('A day, like fri, 2.12 or +3');
      return;
    }
    if (min && day && day < min) {
      setError(`Not before ${words(min)}`);
      return;
    }
    setError(undefined);
    setTyped(null);
    if (day !== value) onChange(day);
  };
  return (
    <TextField
      label={label}
      className={className ?? ''}
      placeholder="fri, 2.12, +3"
      autoComplete="off"
      {...(required ? { required } : {})}
      value={typed ?? words(value)}
      hint={hint}
      error={error}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={read}
      onKeyDown={(event) => {
        if (event.key === 'Enter') read();
        if (event.key === 'Escape' && typed !== null) {
          event.stopPropagation();
          setTyped(null);
          setError(undefined);
        }
      }}
    />
  );
}
