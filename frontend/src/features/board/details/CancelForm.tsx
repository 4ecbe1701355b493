import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { TextArea, TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { cancellingQuery } from '@/features/messages';

interface Props {
  visitId: number;
  busy: boolean;
  onCancel: (words: { note: string; tell: string }) => void;
}

/** Why a visit is cancelled, for us; and what the customer reads of it, which is read here first. */
export function CancelForm({ visitId, busy, onCancel }: Props) {
  const usual = useQuery({ ...cancellingQuery(visitId), staleTime: Infinity });
  const [note, setNote] = useState('');
  const [own, setOwn] = useState<string | null>(null);
  const [tells, setTells] = useState(true);
  const reachable = usual.data !== undefined && usual.data.address !== '';
  const text = own ?? usual.data?.text ?? '';
  const tell = tells && reachable ? text.trim() : '';
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => {
    form.current?.scrollIntoView({ block: 'nearest' });
  }, [usual.data]);
  return (
    <form
      ref={form}
      aria-label="Cancel the visit"
      className="space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        onCancel({ note, tell });
      }}
    >
      <TextField
        label="Why, for us (the customer does not read it)"
        autoFocus
        required
        value={note}
        onChange={(e) => setNote(e.target.value)}
      />
      {usual.isError && <Notice tone="bad">{sentenceOf(usual.error)}</Notice>}
      {usual.data && !reachable && (
        <p className="text-sm text-warn">
          Neither a phone number nor an e-mail address of {usual.data.name} is known: somebody has to call.
        </p>
      )}
      {reachable && <Tell to={usual.data} on={tells} onTick={setTells} text={text} onText={setOwn} />}
      <Button type="submit" rank="danger" disabled={!note.trim() || busy || (!usual.data && !usual.isError)}>
        {usual.isPending
          ? 'Fetching what the customer reads…'
          : tell
            ? 'Cancel it and tell the customer'
            : 'Cancel it, tell nobody'}
      </Button>
    </form>
  );
}

interface TellProps {
  to: { name: string; address: string };
  on: boolean;
  onTick: (on: boolean) => void;
  text: string;
  onText: (text: string) => void;
}

/** What the customer reads, if anything. */
const Tell = ({ to, on, onTick, text, onText }: TellProps) => (
  <>
    <label className="flex items-center gap-2 text-sm">
      <input type="checkbox" checked={on} onChange={(e) => onTick(e.target.checked)} />
      Tell {to.name}, {to.address}
    </label>
    {on && (
      <TextArea
        label="What the customer reads"
        rows={3}
        maxLength={600}
        value={text}
        onChange={(e) => onText(e.target.value)}
      />
    )}
  </>
);
