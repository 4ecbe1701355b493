import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data, sentenceOf, urlOf } from '@/api/client';
import { Button } from '@/design/Button';
import { may, useSession } from '@/features/people';
import { stamp } from '@/shared/time';
import { requestsKey } from '../queries';

const KEY = [...requestsKey, 'mail'];

/** E-mail that could not be read, and why: nothing that somebody wrote to us vanishes. Shown only when there is some. */
export function UnreadMail() {
  const client = useQueryClient();
  const canTake = may(useSession(), 'take_requests');
  const mail = useQuery({ queryKey: KEY, queryFn: () => data(api.GET('/api/v1/intake/mail')) });
  const settled = {
    onError: (error: unknown) => toast.error(sentenceOf(error)),
    onSettled: () => client.invalidateQueries({ queryKey: ['intake'] }),
  };
  const again = useMutation({
    mutationFn: (id: number) =>
      data(api.POST('/api/v1/intake/mail/{unread_id}/again', { params: { path: { unread_id: id } } })),
    onSuccess: ({ request }) =>
      request ? toast.success(`It is ${request} now`) : toast.warning('It still cannot be read.'),
    ...settled,
  });
  const settle = useMutation({
    mutationFn: (id: number) =>
      data(api.POST('/api/v1/intake/mail/{unread_id}/settle', { params: { path: { unread_id: id } } })),
    ...settled,
  });
  const rows = mail.data ?? [];
  if (rows.length === 0) return null;
  return (
    <section
      aria-label="E-mail that could not be read"
      className="border-b border-warn bg-warn-wash px-4 py-2"
    >
      <h2 className="text-sm font-semibold">E-mail that could not be read: {rows.length}</h2>
      <ul className="max-h-40 divide-y divide-hairline overflow-y-auto text-sm">
        {rows.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1">
            <span className="min-w-0 flex-1">
              <b>{row.sender || 'unknown sender'}</b> {row.subject || 'without a subject'}
              <span className="block text-xs text-ink-soft">
                {stamp(row.at)} · {Math.ceil(row.size / 1024)} KB · {row.why}
              </span>
            </span>
            {canTake && (
              <span className="flex gap-1">
                <a
                  className="px-2 py-1 underline"
                  href={urlOf('/api/v1/intake/mail/{unread_id}', { unread_id: row.id })}
                  download="message.eml"
                >
                  Download
                </a>
                <Button disabled={again.isPending} onClick={() => again.mutate(row.id)}>
                  Try again
                </Button>
                <Button disabled={settle.isPending} onClick={() => settle.mutate(row.id)}>
                  Dealt with
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
