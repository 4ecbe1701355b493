import { useState, type FormEvent } from 'react';
import { Problem } from '@/api/client';
import type { SchemaVisitDetailOut } from '@/api/types';
import { DayBox, DayField } from '@/design/DayField';
import { Button } from '@/design/Button';
import { SelectField, TextArea, TextField } from '@/design/Field';
import { focusFirstWrong } from '@/design/FormError';
import { SkillsField } from '@/features/people';
import { PartsField } from '@/features/stock';
import { fromLines } from '@/shared/counted';
import { isoDay, minutesOfDay, moment, parseLength, parseTime, timeText } from '@/shared/time';
import { useEdit } from '../commands';

/** A visit's own facts, editable beside the board. What was typed stays when the server refuses it. */
export function EditForm({ visit }: { visit: SchemaVisitDetailOut }) {
  // Only what was typed is kept here: what others change meanwhile flows into the rest, and nothing typed is lost.
  const [typed, setTyped] = useState<Partial<Form>>({});
  const form = { ...initial(visit), ...typed };
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const edit = useEdit(visit);
  const set = (changes: Partial<Form>) => setTyped((old) => ({ ...old, ...changes }));
  const dirty = JSON.stringify(form) !== JSON.stringify(initial(visit));
  const refused = edit.error instanceof Problem && edit.error.code !== 'stale' ? edit.error : null;
  const { over } = visit;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const { body, errors } = read(form, visit);
    setWrong(errors);
    const shown = event.currentTarget as HTMLElement;
    if (body)
      edit.mutate(
        { ...body, parts: form.takes },
        { onSuccess: () => setTyped({}), onError: () => focusFirstWrong(shown) },
      );
    else focusFirstWrong(shown);
  };
  const at = (field: string) => wrong[field] ?? (refused?.field === field ? refused.message : undefined);
  return (
    <form onSubmit={submit} className="space-y-2 border-t border-hairline pt-3" aria-label="Edit visit">
      <fieldset disabled={over} className="min-w-0 space-y-2">
        <div className="grid grid-cols-2 gap-2">
          <TextField
            label="Length"
            value={form.length}
            placeholder="45 or 1:30"
            onChange={(e) => set({ length: e.target.value })}
            error={at('duration')}
          />
          <SelectField
            label="Priority"
            value={form.priority}
            onChange={(e) => set({ priority: Number(e.target.value) })}
          >
            {[1, 2, 3, 4, 5].map((value) => (
              <option key={value} value={value}>
                {value}
                {value === 1 ? ' (highest)' : value === 5 ? ' (can wait)' : ''}
              </option>
            ))}
          </SelectField>
        </div>
        <fieldset>
          <legend className="mb-0.5 text-xs font-semibold text-ink-soft">Promise</legend>
          <div className="grid grid-cols-[minmax(0,1fr)_4.2rem_4.2rem] gap-1">
            <DayBox
              name="Promised day"
              value={form.promiseDay}
              onChange={(promiseDay) => set({ promiseDay })}
            />
            <input
              aria-label="Promised from"
              className={BOX}
              value={form.promiseFrom}
              placeholder="from"
              onChange={(e) => set({ promiseFrom: e.target.value })}
            />
            <input
              aria-label="Promised until"
              className={BOX}
              value={form.promiseTo}
              placeholder="until"
              onChange={(e) => set({ promiseTo: e.target.value })}
            />
          </div>
          {at('promise') && (
            <p role="alert" className="text-xs text-bad">
              {at('promise')}
            </p>
          )}
        </fieldset>
        <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_3.5rem] gap-1">
          <DayField label="Not before" value={form.earliest} onChange={(earliest) => set({ earliest })} />
          <DayField label="Due" value={form.due} onChange={(due) => set({ due })} error={at('due')} />
          <TextField
            label="Crew"
            inputMode="numeric"
            value={form.crew}
            onChange={(e) => set({ crew: e.target.value })}
            error={at('crew')}
          />
        </div>
        <SkillsField needs={form.needs} onChange={(needs) => set({ needs })} />
        <div className="grid grid-cols-[minmax(0,1fr)_5rem] gap-1">
          <PartsField
            parts={visit.takes}
            typed={form.takes}
            onType={(takes) => set({ takes })}
            rows={2}
            error={at('takes') ?? at('names')}
          />
          <TextField
            label="Worth"
            inputMode="numeric"
            value={form.worth}
            onChange={(e) => set({ worth: e.target.value })}
            error={at('worth')}
          />
        </div>
      </fieldset>
      {over && <p className="text-xs text-ink-soft">It is over: only the notes can still change.</p>}
      <TextArea
        label="Notes for the technician"
        rows={2}
        value={form.notes}
        onChange={(e) => set({ notes: e.target.value })}
      />
      <label className="flex items-center gap-2 text-sm">
        <input
          type="checkbox"
          disabled={over}
          checked={form.pinned}
          onChange={(e) => set({ pinned: e.target.checked })}
        />{' '}
        Pinned: nobody moves it
      </label>
      {refused && !refused.field && <p className="text-sm text-bad">{refused.message}</p>}
      <Button type="submit" disabled={!dirty || edit.isPending}>
        Save changes
      </Button>
    </form>
  );
}

const BOX = 'w-full rounded-sm border border-hairline bg-sheet px-1.5 py-1.5';

interface Form {
  length: string;
  priority: number;
  promiseDay: string;
  promiseFrom: string;
  promiseTo: string;
  earliest: string;
  due: string;
  crew: string;
  needs: Record<string, number>;
  /** As typed; null: as they are. */
  takes: string | null;
  worth: string;
  notes: string;
  pinned: boolean;
}

function initial(visit: SchemaVisitDetailOut): Form {
  const { promise } = visit;
  return {
    length: visit.duration_seconds === null ? '' : String(Math.round(visit.duration_seconds / 60)),
    priority: visit.priority,
    promiseDay: promise ? isoDay(promise.start) : '',
    promiseFrom: promise ? timeText(minutesOfDay(promise.start)) : '',
    promiseTo: promise ? timeText(minutesOfDay(promise.end)) : '',
    earliest: visit.earliest === null ? '' : isoDay(visit.earliest),
    due: visit.due === null ? '' : isoDay(visit.due),
    crew: String(visit.crew),
    needs: visit.needs,
    takes: null,
    worth: visit.worth === null ? '' : String(visit.worth),
    notes: visit.notes,
    pinned: visit.pinned,
  };
}

function read(form: Form, visit: SchemaVisitDetailOut) {
  const errors: Record<string, string> = {};
  const seconds = form.length.trim() ? parseLength(form.length) : null;
  if (form.length.trim() && seconds === null) errors.duration = 'Minutes, or 1:30';
  const crew = Number(form.crew);
  if (!Number.isInteger(crew) || crew < 1 || crew > 8) errors.crew = '1 to 8';
  if (Object.values(fromLines(form.takes ?? '')).some((count) => count < 1 || count > 1000))
    errors.takes = '1 to 1000 of each';
  if (form.worth.trim() && !/^\d{1,7}$/.test(form.worth.trim())) errors.worth = 'Whole money';
  const promise = readPromise(form, errors);
  if (Object.keys(errors).length) return { body: null, errors };
  const earliestDay = visit.earliest === null ? '' : isoDay(visit.earliest);
  const dueDay = visit.due === null ? '' : isoDay(visit.due);
  return {
    errors,
    body: {
      version: visit.version,
      takes: visit.takes,
      duration_seconds: seconds,
      priority: form.priority,
      needs: form.needs,
      worth: form.worth.trim() ? Number(form.worth) : null,
      promise,
      earliest:
        form.earliest === earliestDay ? visit.earliest : form.earliest ? moment(form.earliest, 0) : null,
      due: form.due === dueDay ? visit.due : form.due ? moment(form.due, 17 * 60) : null,
      notes: form.notes,
      pinned: form.pinned,
      crew,
    },
  };
}

function readPromise(form: Form, errors: Record<string, string>) {
  const parts = [form.promiseDay, form.promiseFrom, form.promiseTo].map((part) => part.trim());
  if (parts.every((part) => part === '')) return null;
  const from = parseTime(form.promiseFrom);
  const until = parseTime(form.promiseTo, from ?? undefined);
  if (!form.promiseDay || from === null || until === null) {
    errors.promise = 'A promise needs a day and two times, like 830 and 1030.';
    return null;
  }
  return { start: moment(form.promiseDay, from), end: moment(form.promiseDay, until) };
}
