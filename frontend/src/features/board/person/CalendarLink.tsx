import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';

interface Props {
  who: number;
  name: string;
}

/** Copying, renewing and closing the link; `onClosed`: there is none to copy. */
function useLink({ who, name }: Props, onClosed: () => void) {
  const params = { params: { path: { technician_id: who } } };
  const path = '/api/v1/technicians/{technician_id}/calendar-link';
  const copied = async (found: string | null, words: string) => {
    if (found === null) {
      toast.info(`${name}’s calendar is closed. A new link opens it.`);
      onClosed();
      return;
    }
    await navigator.clipboard.writeText(`${window.location.origin}${found}`);
    toast.success(words);
  };
  const fail = (error: unknown) => toast.error(sentenceOf(error));
  const copy = useMutation({
    mutationFn: () => data(api.GET(path, params)),
    onSuccess: (answer) =>
      copied(answer.path, `The link to ${name}’s calendar is copied. Whoever has it reads the calendar.`),
    onError: fail,
  });
  const renew = useMutation({
    mutationFn: () => data(api.POST(path, params)),
    onSuccess: (answer) => copied(answer.path, 'A new link is copied. The old one shows nothing any more.'),
    onError: fail,
  });
  const close = useMutation({
    mutationFn: () => data(api.DELETE(path, params)),
    onSuccess: () => toast.success(`Nobody reads ${name}’s calendar by a link any more.`),
    onError: fail,
  });
  return { copy, renew, close };
}

/** The secret link of a technician's calendar: copied, and taken from whoever should not have it any more. */
export function CalendarLink({ who, name }: Props) {
  const [open, setOpen] = useState(false);
  const { copy, renew, close } = useLink({ who, name }, () => setOpen(true));
  return (
    <span className="inline-flex flex-wrap gap-x-3">
      <button type="button" className="underline" onClick={() => copy.mutate()}>
        Copy calendar link
      </button>
      <button
        type="button"
        className="text-ink-soft underline"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {open ? 'less' : 'renew or close it'}
      </button>
      {open && (
        <>
          <button
            type="button"
            className="underline"
            disabled={renew.isPending}
            onClick={() => renew.mutate()}
          >
            New link, the old one ends
          </button>
          <button
            type="button"
            className="underline"
            disabled={close.isPending}
            onClick={() => close.mutate()}
          >
            Close the calendar
          </button>
        </>
      )}
    </span>
  );
}
