import { useId, useRef, useState, type InputHTMLAttributes, type KeyboardEvent } from 'react';
import { serverNow } from '@/shared/clock';
import { dayOfAnyYear, isoDay, moment, parseDay } from '@/shared/time';
import { TextField } from './Field';

interface Day {
  /** As 2026-12-02; empty: none. */
  value: string;
  onChange: (day: string) => void;
  /** The first day that can be. */
  min?: string | undefined;
  /** It is about the past: "fri" is the last Friday. */
  past?: boolean;
}

interface Props extends Day {
  label: string;
  className?: string;
  hint?: string;
  required?: boolean;
  /** By which a refusal finds it. */
  name?: string;
  /** What the server, or the form, says of it. */
  error?: string | undefined;
  quiet?: boolean;
}

/** As it is shown, and can be typed. */
const words = (day: string) => (day ? dayOfAnyYear(moment(day, 12 * 60)) : '');

/**
 * A day, typed the way people say it: "fri", "2.12", "+3". It is read when one leaves the field or presses Enter, never
 * while it is being typed. What is no day keeps the form from being sent.
 */
export function DayField({ label, className, hint, required, name, error, quiet, ...day }: Props) {
  const { input, wrong } = useTypedDay(day);
  return (
    <TextField
      label={label}
      className={className ?? ''}
      {...(required ? { required } : {})}
      name={name}
      {...input}
      hint={hint}
      error={wrong ?? error}
      quiet={quiet}
    />
  );
}

/** The same without a label of its own, where one stands beside it already. */
export function DayBox({ name, className, ...day }: Day & { name: string; className?: string }) {
  const id = useId();
  const { input, wrong } = useTypedDay(day);
  return (
    <span className={className}>
      <input
        aria-label={name}
        className="w-full rounded-sm border border-hairline bg-sheet px-1.5 py-1.5 aria-invalid:border-bad"
        aria-invalid={wrong ? true : undefined}
        aria-describedby={wrong ? id : undefined}
        {...input}
      />
      {wrong && (
        <span id={id} role="alert" className="block text-xs text-bad">
          {wrong}
        </span>
      )}
    </span>
  );
}

function useTypedDay({ value, onChange, min, past = false }: Day) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string>();
  const refused = useRef('');
  const read = (input: HTMLInputElement) => {
    if (typed === null) return;
    const day = typed.trim() === '' ? '' : parseDay(typed, isoDay(serverNow()), { past });
    const error = day === null ? 'A day, like fri, 2.12 or +3' : tooEarly(day, min);
    input.setCustomValidity(error);
    refused.current = error;
    setWrong(error || undefined);
    if (error || day === null) return;
    setTyped(null);
    if (day !== value) onChange(day);
  };
  const input: InputHTMLAttributes<HTMLInputElement> = {
    placeholder: 'fri, 2.12, +3',
    autoComplete: 'off',
    value: typed ?? words(value),
    onFocus: (event) => event.target.select(),
    onChange: (event) => {
      if (refused.current) event.target.setCustomValidity('');
      setTyped(event.target.value);
    },
    onBlur: (event) => read(event.target),
    onKeyDown: (event: KeyboardEvent<HTMLInputElement>) => {
      if (event.key === 'Enter') read(event.currentTarget);
      if (event.key === 'Escape' && typed !== null) {
        event.stopPropagation();
        event.currentTarget.setCustomValidity('');
        setTyped(null);
        setWrong(undefined);
      }
    },
  };
  return { input, wrong };
}

const tooEarly = (day: string, min: string | undefined) =>
  min && day && day < min ? `Not before ${words(min)}` : '';
