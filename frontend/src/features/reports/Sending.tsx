import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, data, sentenceOf, urlOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { stamp } from '@/shared/time';
import { sendingKey, sendingQuery } from './queries';

/** The report on paper, and who gets it by e-mail. */
export function Sending({ visitId }: { visitId: number }) {
  const [open, setOpen] = useState(false);
  const canSend = may(useSession(), 'change_visits');
  return (
    <div className="space-y-2 border-t border-hairline pt-2">
      <p className="flex flex-wrap items-center gap-3 text-sm">
        <a
          href={urlOf('/api/v1/reports/of-visit/{visit_id}/paper', { visit_id: visitId })}
          target="_blank"
          rel="noreferrer"
          className="underline"
        >
          Report (PDF)
        </a>
        <Button aria-expanded={open} onClick={() => setOpen(!open)}>
          Send it
        </Button>
      </p>
      {open && <Readers visitId={visitId} canSend={canSend} />}
    </div>
  );
}

function Readers({ visitId, canSend }: { visitId: number; canSend: boolean }) {
  const sending = useQuery(sendingQuery(visitId));
  if (sending.isPending) return <p className="text-sm text-ink-soft">Fetching…</p>;
  if (sending.isError) return <Notice tone="bad">{sentenceOf(sending.error)}</Notice>;
  return (
    <>
      <ul aria-label="Sent to" className="text-sm">
        {sending.data.sent.map(({ address, at, by, mailed }) => (
          <li key={`${address} ${at}`}>
            {address}: {mailed === null ? 'on its way' : `sent ${stamp(mailed)}`}
            <span className="text-ink-soft">, by {by}</span>
          </li>
        ))}
      </ul>
      {canSend ? (
        <Choose visitId={visitId} readers={sending.data.readers} />
      ) : (
        <p className="text-sm text-ink-soft">Your role reads reports, and does not send them.</p>
      )}
    </>
  );
}

interface ChooseProps {
  visitId: number;
  readers: { name: string; address: string }[];
}

function Choose({ visitId, readers }: ChooseProps) {
  const client = useQueryClient();
  const [chosen, setChosen] = useState<string[]>([]);
  const [text, setText] = useState('');
  const send = useMutation({
    mutationFn: (addresses: string[]) =>
      data(
        api.POST('/api/v1/reports/of-visit/{visit_id}/sending', {
          params: { path: { visit_id: visitId } },
          body: { addresses },
        }),
      ),
    onSuccess: (answer) => {
      client.setQueryData(sendingKey(visitId), answer);
      setChosen([]);
      setText('');
    },
  });
  const addresses = [...chosen, ...text.split(/[\s,;]+/).filter(Boolean)];
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate(addresses);
  };
  return (
    <form onSubmit={submit} aria-label="Send the report" className="space-y-2">
      {readers.map(({ name, address }) => (
        <label key={address} className="flex items-center gap-2 text-sm">
          <input
            type="checkbox"
            checked={chosen.includes(address)}
            onChange={(event) =>
              setChosen(
                event.target.checked ? [...chosen, address] : chosen.filter((each) => each !== address),
              )
            }
          />
          {name} <span className="text-ink-soft">{address}</span>
        </label>
      ))}
      <TextField
        label="Other addresses, with commas between them"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {send.isError && <Notice tone="bad">{sentenceOf(send.error)}</Notice>}
      <Button type="submit" rank="main" disabled={addresses.length === 0 || send.isPending}>
        Send the report
      </Button>
    </form>
  );
}
