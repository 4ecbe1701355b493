// The one way to make a form: react-hook-form and zod behind fields that look and behave alike.

import { zodResolver } from '@hookform/resolvers/zod';
import { useId, useState, type ComponentProps, type ReactNode } from 'react';
import {
  Controller,
  FormProvider,
  useForm,
  useFormContext,
  type DefaultValues,
  type FieldValues,
  type Path,
  type UseFormReturn,
} from 'react-hook-form';
import type { z } from 'zod';
import { Problem, sentenceOf } from '@/api/client';
import { Button } from './Button';
import { DayField } from './DayField';
import { SelectField, TextArea, TextField } from './Field';
import { FormError, focusFirstWrong } from './FormError';
import { TimeField } from './TimeField';

interface Kept<Typed extends FieldValues, Read> {
  /** What is typed, and what it must be to be kept. */
  schema: z.ZodType<Read, Typed>;
  /** As it is kept now. What others change meanwhile flows in, except where somebody has typed. */
  values: Typed;
  /** Keep it; refused, the form stays as typed and says why. */
  keep: (read: Read, form: UseFormReturn<Typed, unknown, Read>) => Promise<unknown>;
}

export interface KeptForm<Typed extends FieldValues> {
  form: UseFormReturn<Typed>;
  /** Why it was refused, where that is about none of its own fields. */
  refusal: unknown;
  submit: () => Promise<void>;
}

/** A form over something that is kept elsewhere. Fields are called as the server calls them, so refusals find them. */
export function useKeptForm<Typed extends FieldValues, Read>({ schema, values, keep }: Kept<Typed, Read>) {
  const form = useForm<Typed, unknown, Read>({
    // The resolver is typed for schemas whose input is not known.
    resolver: zodResolver(schema as never) as never,
    defaultValues: values as DefaultValues<Typed>,
    values,
    resetOptions: { keepDirtyValues: true },
    // Told on leaving a field, not while it is half typed.
    mode: 'onTouched',
  });
  const [refusal, setRefusal] = useState<unknown>(null);
  const submit = form.handleSubmit(async (read) => {
    setRefusal(null);
    try {
      await keep(read, form);
      form.reset(form.getValues());
    } catch (error) {
      if (error instanceof Problem && error.field in values)
        form.setError(
          error.field as Path<Typed>,
          { type: 'server', message: sentenceOf(error) },
          { shouldFocus: true },
        );
      else setRefusal(error);
    }
  });
  return { form: form as unknown as UseFormReturn<Typed>, refusal, submit: () => submit() };
}

interface FormProps<Typed extends FieldValues> {
  kept: KeptForm<Typed>;
  label: string;
  className?: string;
  children: ReactNode;
}

/** The form around its fields; what no field can say stands at its end. */
export function Form<Typed extends FieldValues>({ kept, label, className, children }: FormProps<Typed>) {
  const { form, refusal, submit } = kept;
  return (
    <FormProvider {...form}>
      <form
        noValidate
        aria-label={label}
        className={className ?? ''}
        onSubmit={(event) => {
          event.preventDefault();
          // What a field could not read, such as a day, is told there and holds the form back.
          const shown = event.currentTarget;
          const unread = [...shown.elements].find(
            (part) => part instanceof HTMLInputElement && part.validity.customError,
          );
          if (unread) (unread as HTMLInputElement).focus();
          else void submit().then(() => focusFirstWrong(shown));
        }}
      >
        {children}
        <FormError error={refusal} />
      </form>
    </FormProvider>
  );
}

/** Keep, or leave it as it was. */
export function KeepOrLeave({ words, onLeave }: { words: string; onLeave?: () => void }) {
  const { formState } = useFormContext();
  return (
    <div className="flex gap-2">
      <Button type="submit" rank="main" disabled={formState.isSubmitting}>
        {words}
      </Button>
      {onLeave && (
        <Button rank="quiet" onClick={onLeave}>
          Cancel
        </Button>
      )}
    </div>
  );
}

function useField(name: string) {
  const { register, getFieldState, formState } = useFormContext();
  return { ...register(name), error: getFieldState(name, formState).error?.message };
}

type Own<Props> = Omit<Props, 'name' | 'error' | 'value' | 'onChange'> & { name: string };

export const FormText = ({ name, ...rest }: Own<ComponentProps<typeof TextField>>) => (
  <TextField {...rest} {...useField(name)} />
);

export const FormArea = ({ name, ...rest }: Own<ComponentProps<typeof TextArea>>) => (
  <TextArea {...rest} {...useField(name)} />
);

export const FormSelect = ({ name, ...rest }: Own<ComponentProps<typeof SelectField>>) => (
  <SelectField {...rest} {...useField(name)} />
);

export function FormCheck({ name, words }: { name: string; words: string }) {
  const id = useId();
  const { error, ...field } = useField(name);
  return (
    <div>
      <label className="flex items-center gap-1.5 text-sm">
        <input type="checkbox" aria-describedby={error ? id : undefined} {...field} /> {words}
      </label>
      {error && (
        <p id={id} role="alert" className="text-xs text-bad">
          {error}
        </p>
      )}
    </div>
  );
}

type Typed<Props> = Omit<Props, 'name' | 'error' | 'value' | 'onChange'> & { name: string };

/** A day, typed as people say it; the form holds it as 2026-12-02, or empty. */
export const FormDay = ({ name, ...rest }: Typed<ComponentProps<typeof DayField>>) => (
  <FormValue name={name}>
    {({ value, onChange, error }) => (
      <DayField {...rest} name={name} value={value as string} onChange={onChange} error={error} />
    )}
  </FormValue>
);

/** A time of day, typed as people say it; the form holds minutes, or null. */
export const FormTime = ({ name, ...rest }: Typed<ComponentProps<typeof TimeField>>) => (
  <FormValue name={name}>
    {({ value, onChange, error }) => (
      <TimeField {...rest} name={name} value={value as number | null} onChange={onChange} error={error} />
    )}
  </FormValue>
);

interface Given {
  value: unknown;
  onChange: (value: unknown) => void;
  error: string | undefined;
}

/** Any other part that has a value: tags, skills, a customer that is picked. */
export function FormValue({ name, children }: { name: string; children: (given: Given) => ReactNode }) {
  return (
    <Controller
      name={name}
      render={({ field, fieldState }) => (
        <>{children({ value: field.value, onChange: field.onChange, error: fieldState.error?.message })}</>
      )}
    />
  );
}
