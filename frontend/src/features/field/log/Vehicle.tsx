import { useState } from 'react';
import { Notice } from '@/design/Notice';
import { SelectField, TextField } from '@/design/Field';
import { asked, type Question } from '@/shared/questions';
import type { DayBodies, DayLog as Log } from '../sync/daylog';
import { inWords } from '../trouble';
import { OneOf, YES_NO } from '../work/OneOf';
import { THUMB } from '../work/thumb';
import { useRecordDay } from './recordDay';

type Said = Omit<DayBodies['vehicle'], 'day'>;

/** What is driven, what its odometer says, and how it was found. */
export function Vehicle({ log }: { log: Log }) {
  const record = useRecordDay(log.day);
  const say = (body: Said) => record.mutate({ kind: 'vehicle', body });
  const choose = (text: string) => {
    const chosen = log.vehicles.find(({ id }) => String(id) === text);
    if (chosen) say({ vehicle_id: chosen.id, name: chosen.name });
  };
  return (
    <section aria-label="Vehicle" className="space-y-3">
      <h2 className="text-lg font-semibold">Vehicle</h2>
      <SelectField
        label="You drive"
        className={THUMB}
        value={log.vehicle_id === null ? '' : String(log.vehicle_id)}
        onChange={(event) => choose(event.target.value)}
      >
        <option value="">no vehicle</option>
        {log.vehicles.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </SelectField>
      {record.isError && <Notice tone="bad">{inWords(record.error)}</Notice>}
      {log.drives && (
        <>
          <Odometer
            label="Odometer in the morning, km"
            kept={log.odometer_began}
            onSay={(odometer_began) => say({ odometer_began })}
          />
          <Checks log={log} onSay={(checks) => say({ checks })} />
          {log.began !== null && (
            <Odometer
              label="Odometer in the evening, km"
              kept={log.odometer_ended}
              onSay={(odometer_ended) => say({ odometer_ended })}
            />
          )}
        </>
      )}
    </section>
  );
}

interface OdometerProps {
  label: string;
  kept: number | null;
  onSay: (kilometres: number) => void;
}

/** Whole kilometres, written down when one leaves the field. */
function Odometer({ label, kept, onSay }: OdometerProps) {
  const [text, setText] = useState<string | null>(null);
  const shown = text ?? (kept === null ? '' : String(kept));
  const read = kilometresOf(shown);
  return (
    <TextField
      label={label}
      inputMode="numeric"
      className={THUMB}
      value={shown}
      error={shown.trim() && read === null ? 'Whole kilometres, as the odometer shows them.' : undefined}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => {
        if (read !== null && read !== kept) onSay(read);
      }}
    />
  );
}

/** Whole kilometres of what was typed, also with marks between the thousands; null: it is none. */
export function kilometresOf(text: string): number | null {
  const plain = text.trim().replace(/[\s.,'](?=\d{3})/g, '');
  return /^\d{1,7}$/.test(plain) && Number(plain) <= 3_000_000 ? Number(plain) : null;
}

/** What the company asks about a vehicle. */
function Checks({ log, onSay }: { log: Log; onSay: (checks: Record<string, unknown>) => void }) {
  const questions = asked(log.questions as unknown as Question[], log.checks);
  return questions.map((question) => {
    const value = log.checks[question.key];
    const say = (answer: unknown) => {
      const others = Object.fromEntries(Object.entries(log.checks).filter(([key]) => key !== question.key));
      onSay(answer === null || answer === '' ? others : { ...others, [question.key]: answer });
    };
    return (
      <fieldset key={question.key}>
        <legend className="mb-1 font-semibold">
          {question.label}
          {question.unit && ` (${question.unit})`}
          {question.required === 'to close' && (
            <span className="ml-2 text-sm font-normal text-ink-soft">needed</span>
          )}
        </legend>
        {question.kind === 'yes_no' && (
          <OneOf label={question.label} choices={YES_NO} value={value} onPick={say} />
        )}
        {question.kind === 'choice' && (
          <OneOf
            label={question.label}
            choices={(question.choices ?? []).map((words) => ({ value: words, words }))}
            value={value}
            onPick={say}
          />
        )}
        {(question.kind === 'text' || question.kind === 'number' || question.kind === 'date') && (
          <Written question={question} value={value} onSay={say} />
        )}
      </fieldset>
    );
  });
}

function Written({
  question,
  value,
  onSay,
}: {
  question: Question;
  value: unknown;
  onSay: (answer: unknown) => void;
}) {
  const kept = value === undefined || value === null ? '' : String(value);
  return (
    <input
      aria-label={question.label}
      type={question.kind === 'date' ? 'date' : 'text'}
      inputMode={question.kind === 'number' ? 'decimal' : undefined}
      maxLength={300}
      defaultValue={kept}
      onBlur={(event) => {
        const typed = event.target.value.trim();
        if (typed === kept) return;
        const number = Number(typed.replace(',', '.'));
        onSay(question.kind === 'number' && typed && !Number.isNaN(number) ? number : typed);
      }}
      className="min-h-14 w-full rounded-sm border border-hairline bg-sheet px-3 text-lg"
    />
  );
}
