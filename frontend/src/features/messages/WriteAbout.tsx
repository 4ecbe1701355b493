import { MessageSquareText } from 'lucide-react';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaLetterIn } from '@/api/types';
import { Button } from '@/design/Button';
import { TextArea } from '@/design/Field';
import { useWriteAbout } from './commands';

type To = SchemaLetterIn['to'];

interface Props {
  visitId: number;
  customer: string;
  /** Who goes; null: nobody yet. */
  technician: string | null;
}

/** A few words to whoever is concerned by a visit, without leaving it. What was typed stays when it is refused. */
export function WriteAbout({ visitId, customer, technician }: Props) {
  const [to, setTo] = useState<To | null>(null);
  const [text, setText] = useState('');
  const write = useWriteAbout(visitId);
  const open = (whom: To) => {
    write.reset();
    setTo(to === whom ? null : whom);
  };
  const person = to === 'technician' ? technician : customer;
  return (
    <div className="space-y-2">
      <div className="flex flex-wrap gap-2">
        <Choice whom="customer" to={to} words="Write to the customer" onOpen={open} />
        {technician && (
          <Choice whom="technician" to={to} words={`Write to ${technician.split(' ')[0]}`} onOpen={open} />
        )}
      </div>
      {to && (
        <form
          aria-label={`Message to ${person}`}
          className="space-y-1"
          onSubmit={(event) => {
            event.preventDefault();
            write.mutate(
              { to, text },
              {
                onSuccess: () => {
                  setText('');
                  setTo(null);
                },
              },
            );
          }}
        >
          <TextArea
            label={`To ${person}`}
            rows={3}
            maxLength={600}
            autoFocus
            required
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          {write.error && (
            <p role="alert" className="text-sm text-bad">
              {sentenceOf(write.error)}
            </p>
          )}
          <Button type="submit" disabled={!text.trim() || write.isPending}>
            Send these words
          </Button>
        </form>
      )}
    </div>
  );
}

interface ChoiceProps {
  whom: To;
  to: To | null;
  words: string;
  onOpen: (whom: To) => void;
}

const Choice = ({ whom, to, words, onOpen }: ChoiceProps) => (
  <Button icon={<MessageSquareText size={14} />} aria-expanded={to === whom} onClick={() => onOpen(whom)}>
    {words}
  </Button>
);
