import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, data, sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import { TextArea, TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';

const EMPTY = { name: '', phone: '', email: '', address: '', text: '', website: '' };

/** The customer's own page: say what is wrong, without an account. */
export function PublicForm() {
  const form = useQuery({
    queryKey: ['ask'],
    queryFn: () => data(api.GET('/api/v1/intake/form')),
    staleTime: Infinity,
    gcTime: 0,
  });
  const [said, setSaid] = useState(EMPTY);
  const send = useMutation({
    mutationFn: () =>
      data(api.POST('/api/v1/intake/form', { body: { ...said, form: form.data?.form ?? '' } })),
  });
  const set = (changes: Partial<typeof said>) => setSaid((old) => ({ ...old, ...changes }));
  const field = (name: keyof typeof EMPTY) => ({
    value: said[name],
    onChange: (event: { target: { value: string } }) => set({ [name]: event.target.value }),
  });
  return (
    <main className="mx-auto max-w-lg p-5">
      <p className="text-sm text-ink-soft">{form.data?.company}</p>
      <h1 className="mb-3 text-2xl font-semibold">What can we do for you?</h1>
      {form.isError && <Notice tone="bad">{sentenceOf(form.error)}</Notice>}
      {send.isSuccess ? (
        <Thanks number={send.data.number} />
      ) : (
        <form
          className="space-y-3"
          aria-label="Your request"
          onSubmit={(event) => {
            event.preventDefault();
            send.mutate();
          }}
        >
          <TextArea label="What is wrong, and where exactly?" rows={4} required {...field('text')} />
          <TextField label="Your name or company" required autoComplete="name" {...field('name')} />
          <TextField label="Address of the place" autoComplete="street-address" {...field('address')} />
          <div className="grid gap-3 sm:grid-cols-2">
            <TextField label="Phone" type="tel" autoComplete="tel" {...field('phone')} />
            <TextField label="E-mail" type="email" autoComplete="email" {...field('email')} />
          </div>
          {/* Only machines fill this in. */}
          <div className="hidden" aria-hidden>
            <label>
              Website
              <input tabIndex={-1} autoComplete="off" {...field('website')} />
            </label>
          </div>
          <FormError error={send.error} />
          <Button type="submit" rank="main" size="thumb" disabled={send.isPending || !form.data}>
            Send it
          </Button>
          <p className="text-sm text-ink-soft">
            Somebody trapped, or in danger? Please call us instead of writing.
          </p>
        </form>
      )}
    </main>
  );
}

const Thanks = ({ number }: { number: string | null | undefined }) => (
  <Notice tone="good">
    <p className="font-semibold">
      Thank you. We have your request{number ? ` ${number}` : ''} and will call you back.
    </p>
    <p>If somebody is trapped or in danger, call us: do not wait for an answer.</p>
  </Notice>
);
