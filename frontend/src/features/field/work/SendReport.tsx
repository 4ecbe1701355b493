import { useState, type FormEvent } from 'react';
import { urlOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { clockTime } from '@/shared/time';
import type { OwnVisit } from '../sync/ahead';
import { inWords } from '../trouble';
import { useRecord } from './record';
import { THUMB } from './thumb';

/** Who gets the report by e-mail, chosen on the spot; it is made and sent when the office has heard of all this. */
export function SendReport({ visit }: { visit: OwnVisit }) {
  const record = useRecord(visit.id);
  const [text, setText] = useState('');
  const [chosen, setChosen] = useState<string[]>([]);
  const typed = text.trim();
  const wrong = typed !== '' && !/^\S+@\S+\.\S+$/.test(typed);
  const addresses = [...new Set([...chosen, ...(typed && !wrong ? [typed] : [])])];
  const send = (event: FormEvent) => {
    event.preventDefault();
    record.mutate(
      { kind: 'send report', body: { addresses } },
      {
        onSuccess: () => {
          setText('');
          setChosen([]);
        },
      },
    );
  };
  return (
    <form onSubmit={send} aria-label="Send the report" className="space-y-3 border-t border-hairline p-4">
      <h2 className="text-lg font-semibold">Send the report</h2>
      <Sent visit={visit} />
      <Readers
        readers={visit.readers}
        chosen={chosen}
        onTurn={(address) =>
          setChosen(
            chosen.includes(address) ? chosen.filter((each) => each !== address) : [...chosen, address],
          )
        }
      />
      <TextField
        label="Another e-mail address"
        type="email"
        inputMode="email"
        autoComplete="off"
        maxLength={254}
        className={THUMB}
        value={text}
        error={wrong ? 'An e-mail address, as name@company.example.' : undefined}
        onChange={(event) => setText(event.target.value)}
      />
      {record.isError && <Notice tone="bad">{inWords(record.error)}</Notice>}
      <Button
        type="submit"
        size="thumb"
        className="w-full"
        disabled={addresses.length === 0 || wrong || record.isPending}
      >
        {addresses.length > 1 ? `Send to ${addresses.length} addresses` : 'Send'}
      </Button>
      <Paper visitId={visit.id} />
    </form>
  );
}

function Sent({ visit }: { visit: OwnVisit }) {
  if (visit.sent.length === 0) return null;
  return (
    <ul aria-label="Sent to">
      {visit.sent.map(({ address, at, mailed }) => (
        <li key={`${address} ${at}`}>
          {address}: {mailed === null ? 'on its way' : `sent ${clockTime(mailed)}`}
        </li>
      ))}
    </ul>
  );
}

interface ReadersProps {
  readers: OwnVisit['readers'];
  chosen: readonly string[];
  onTurn: (address: string) => void;
}

/** Whom the customer has named, each to be chosen with one press. */
const Readers = ({ readers, chosen, onTurn }: ReadersProps) =>
  readers.map(({ name, address }) => (
    <Button
      key={address}
      size="thumb"
      className="w-full"
      aria-pressed={chosen.includes(address)}
      onClick={() => onTurn(address)}
    >
      <span className="truncate">
        {name}, {address}
      </span>
    </Button>
  ));

const Paper = ({ visitId }: { visitId: number }) => (
  <a
    href={urlOf('/api/v1/field/visits/{visit_id}/paper', { visit_id: visitId })}
    target="_blank"
    rel="noreferrer"
    className="flex min-h-14 items-center justify-center underline"
  >
    Look at the report (PDF, with a signal)
  </a>
);
