import { useState } from 'react';
import type { SchemaStep, SchemaVisitDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { serverNow } from '@/shared/clock';
import { useStep } from '../commands';
import { CancelForm } from './CancelForm';
import type { Gap } from '../search';

const WORDS: Partial<Record<SchemaStep, string>> = {
  accept: 'Accepted',
  decline: 'Declined',
  depart: 'Set out',
  arrive: 'Arrived',
  hold: 'On hold',
  resume: 'Goes on',
  finish: 'Finished',
  cancel: 'Cancel the visit',
  reopen: 'Open it again',
};

interface Props {
  visit: SchemaVisitDetailOut;
  /** A cancelled visit leaves a gap. */
  onGap: (gap: Gap) => void;
}

/** Stamps by the office for a technician whose phone is silent, and cancelling. */
export function StepsForTechnician({ visit, onGap }: Props) {
  const [asking, setAsking] = useState<SchemaStep | null>(null);
  const [note, setNote] = useState('');
  const step = useStep(visit.id);
  const offered = visit.actions.filter((row) => row.step in WORDS);
  const needsNote = (wanted: SchemaStep) => offered.some((row) => row.step === wanted && row.needs_note);
  if (offered.length === 0) return null;
  const left = () => {
    const { technician_id: who, start, duration_seconds: seconds, id } = visit;
    if (who !== null && start !== null && start + (seconds ?? 0) > serverNow())
      onGap({ who, start: Math.max(start, serverNow()), end: start + (seconds ?? 3600), but: id });
  };
  const take = (wanted: SchemaStep) => {
    if (asking !== wanted && needsNote(wanted)) setAsking(wanted);
    else if (wanted !== 'cancel') step.mutate({ version: visit.version, step: wanted, note });
  };
  return (
    <section className="space-y-2 border-t border-hairline pt-3" aria-label="Stamp for the technician">
      <h3 className="text-xs font-semibold text-ink-soft">Stamp by phone call</h3>
      <div className="flex flex-wrap gap-1.5">
        {offered.map(({ step: row }) => (
          <Button
            key={row}
            rank={row === 'cancel' ? 'danger' : 'plain'}
            disabled={step.isPending}
            onClick={() => take(row)}
          >
            {WORDS[row]}
          </Button>
        ))}
      </div>
      {asking === 'cancel' && (
        <CancelForm
          visitId={visit.id}
          busy={step.isPending}
          onCancel={(words) =>
            step.mutate({ version: visit.version, step: 'cancel', ...words }, { onSuccess: left })
          }
        />
      )}
      {asking && asking !== 'cancel' && (
        <InWords
          key={asking}
          step={asking}
          note={note}
          onNote={setNote}
          busy={step.isPending}
          onTake={() => take(asking)}
        />
      )}
    </section>
  );
}

interface InWordsProps {
  step: SchemaStep;
  note: string;
  onNote: (note: string) => void;
  busy: boolean;
  onTake: () => void;
}

/** A stamp that needs a word. */
const InWords = ({ step, note, onNote, busy, onTake }: InWordsProps) => (
  <form
    className="flex items-end gap-2"
    onSubmit={(event) => {
      event.preventDefault();
      onTake();
    }}
  >
    <TextField
      className="flex-1"
      label={`${WORDS[step]}: in a few words`}
      autoFocus
      required
      value={note}
      onChange={(e) => onNote(e.target.value)}
    />
    <Button type="submit" disabled={!note.trim() || busy}>
      Stamp
    </Button>
  </form>
);
