import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaAccountRowOut, SchemaPhoneOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { stamp } from '@/shared/time';

const phonesOf = (accountId: number) => ['phones', accountId] as const;

/** Phones that somebody works on in the field, and signing out one that is lost. */
export function Phones({ row }: { row: SchemaAccountRowOut }) {
  const client = useQueryClient();
  const phones = useQuery({
    queryKey: phonesOf(row.id),
    queryFn: () =>
      data(api.GET('/api/v1/field/phones/of/{account_id}', { params: { path: { account_id: row.id } } })),
  });
  const signOut = useMutation({
    mutationFn: (phone: SchemaPhoneOut) =>
      data(
        api.POST('/api/v1/field/phones/{phone_id}/sign-out', { params: { path: { phone_id: phone.id } } }),
      ),
    onSuccess: (phone) => {
      toast.success(`${phone.name} is signed out`);
      return client.invalidateQueries({ queryKey: phonesOf(row.id) });
    },
  });
  const error = phones.error ?? signOut.error;
  if (!error && !phones.data?.length) return null;
  return (
    <section aria-label="Phones" className="max-w-md space-y-2 text-sm">
      <h3 className="font-semibold">Phones</h3>
      {error && <Notice tone="bad">{sentenceOf(error)}</Notice>}
      <ul className="divide-y divide-hairline border-y border-hairline">
        {phones.data?.map((phone) => (
          <li key={phone.id} className="flex items-center gap-2 py-1">
            <span className="flex-1">
              {phone.name}
              <span className="block text-ink-soft">
                {phone.signed_out_at
                  ? `signed out by ${phone.signed_out_by}, ${stamp(phone.signed_out_at)}`
                  : `last heard of ${stamp(phone.seen_at)}`}
              </span>
            </span>
            {!phone.signed_out_at && (
              <Button disabled={signOut.isPending} onClick={() => signOut.mutate(phone)}>
                Lost: sign it out
              </Button>
            )}
          </li>
        ))}
      </ul>
      <p className="text-ink-soft">
        Signed out, a phone closes as soon as it has a signal, and what lies on it cannot be read. What was
        recorded there and not sent stays closed until {row.name} signs in on it again.
      </p>
    </section>
  );
}
