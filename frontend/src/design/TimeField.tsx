import { useRef, useState, type KeyboardEvent } from 'react';
import { parseTime, timeText } from '@/shared/time';
import { TextField } from './Field';

interface Props {
  label: string;
  /** Minutes of the day; null: none. */
  value: number | null;
  onChange: (minutes: number | null) => void;
  /** What "+45" counts from, in minutes of the day. */
  base?: number;
  className?: string;
  hint?: string;
  name?: string;
  error?: string | undefined;
  quiet?: boolean;
  placeholder?: string;
}

/** A time of day, typed the way people say it: "8", "830", "8:30", "+45". Read when one leaves the field or presses Enter. */
export function TimeField({
  label,
  value,
  onChange,
  base,
  className,
  hint,
  name,
  error,
  quiet,
  placeholder = '8, 830, +45',
}: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string>();
  const refused = useRef(false);
  const read = (input: HTMLInputElement) => {
    if (typed === null) return;
    const minutes = typed.trim() === '' ? null : parseTime(typed, base);
    refused.current = typed.trim() !== '' && minutes === null;
    const words = refused.current ? 'A time, like 8, 830 or +45' : '';
    input.setCustomValidity(words);
    setWrong(words || undefined);
    if (refused.current) return;
    setTyped(null);
    if (minutes !== value) onChange(minutes);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter') read(event.currentTarget);
    if (event.key !== 'Escape' || typed === null) return;
    event.stopPropagation();
    event.currentTarget.setCustomValidity('');
    setTyped(null);
    setWrong(undefined);
  };
  return (
    <TextField
      label={label}
      className={className ?? ''}
      name={name}
      quiet={quiet}
      hint={hint}
      placeholder={placeholder}
      autoComplete="off"
      value={typed ?? (value === null ? '' : timeText(value))}
      error={wrong ?? error}
      onFocus={(event) => event.target.select()}
      onChange={(event) => {
        if (refused.current) event.target.setCustomValidity('');
        setTyped(event.target.value);
      }}
      onBlur={(event) => read(event.target)}
      onKeyDown={onKeyDown}
    />
  );
}
