import {
  useId,
  type InputHTMLAttributes,
  type ComponentProps,
  type ReactNode,
  type SelectHTMLAttributes,
} from 'react';

interface Shared {
  label: string;
  hint?: ReactNode;
  error?: string | undefined;
  className?: string;
  /** The label is read out and not shown: it stands above a column. */
  quiet?: boolean | undefined;
}

const BOX =
  'w-full rounded-sm border bg-sheet px-2 py-1.5 text-ink placeholder:text-ink-soft/70 aria-invalid:border-bad border-hairline';

function Frame({
  id,
  label,
  hint,
  error,
  className = '',
  quiet,
  children,
}: Shared & { id: string; children: ReactNode }) {
  return (
    <div className={className}>
      <label htmlFor={id} className={quiet ? 'sr-only' : 'mb-0.5 block text-xs font-semibold text-ink-soft'}>
        {label}
      </label>
      {children}
      {error ? (
        <p id={`${id}-note`} role="alert" className="mt-0.5 text-xs text-bad">
          {error}
        </p>
      ) : (
        hint && (
          <div id={`${id}-note`} className="mt-0.5 text-xs text-ink-soft">
            {hint}
          </div>
        )
      )}
    </div>
  );
}

function wiring(id: string, { hint, error }: Shared) {
  return {
    id,
    'aria-invalid': error ? true : undefined,
    'aria-describedby': hint || error ? `${id}-note` : undefined,
  };
}

export function TextField({
  label,
  hint,
  error,
  className,
  quiet,
  ...rest
}: Shared & InputHTMLAttributes<HTMLInputElement>) {
  const id = useId();
  const shared = { label, hint, error, className, quiet };
  return (
    <Frame id={id} {...shared}>
      <input className={BOX} {...wiring(id, shared)} {...rest} />
    </Frame>
  );
}

export function TextArea({ label, hint, error, className, ...rest }: Shared & ComponentProps<'textarea'>) {
  const id = useId();
  const shared = { label, hint, error, className };
  return (
    <Frame id={id} {...shared}>
      <textarea className={BOX} {...wiring(id, shared)} {...rest} />
    </Frame>
  );
}

export function SelectField({
  label,
  hint,
  error,
  className,
  children,
  ...rest
}: Shared & SelectHTMLAttributes<HTMLSelectElement>) {
  const id = useId();
  const shared = { label, hint, error, className };
  return (
    <Frame id={id} {...shared}>
      <select className={BOX} {...wiring(id, shared)} {...rest}>
        {children}
      </select>
    </Frame>
  );
}
