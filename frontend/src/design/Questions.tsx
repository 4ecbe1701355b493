import type { Question } from '@/shared/questions';
import { asked } from '@/shared/questions';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import { DayField } from './DayField';
import { SelectField, TextField } from './Field';

interface Props {
  questions: Question[];
  answers: Record<string, unknown>;
  onChange: (answers: Record<string, unknown>) => void;
  /** Keeps a picture and gives its number; without it there is no record yet to keep it with. */
  onFile?: (file: File) => Promise<number>;
  /** Only questions of these kinds of need are marked. */
  marks?: 'to create' | 'to close';
}

/** Own fields and checklists, as they were composed: each kind of question has its field. */
export function Questions({ questions, answers, onChange, onFile, marks = 'to create' }: Props) {
  const set = (key: string, value: unknown) => onChange({ ...answers, [key]: value });
  return (
    <div className="grid grid-cols-2 gap-2">
      {asked(questions, answers).map((question) => {
        const needed = question.required === marks ? ' *' : '';
        const label = `${question.label}${question.unit ? ` (${question.unit})` : ''}${needed}`;
        const value = answers[question.key];
        const name = `extra.${question.key}`;
        if (question.kind === 'choice' || question.kind === 'yes_no') {
          const choices = question.kind === 'choice' ? (question.choices ?? []) : ['yes', 'no'];
          const shown = typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value ?? '');
          return (
            <SelectField
              key={question.key}
              name={name}
              label={label}
              hint={question.hint}
              value={shown}
              onChange={(event) =>
                set(
                  question.key,
                  question.kind === 'choice'
                    ? event.target.value
                    : event.target.value === ''
                      ? ''
                      : event.target.value === 'yes',
                )
              }
            >
              <option value="">not said</option>
              {choices.map((choice) => (
                <option key={choice}>{choice}</option>
              ))}
            </SelectField>
          );
        }
        if (question.kind === 'photo' && onFile)
          return (
            <div key={question.key}>
              <TextField
                name={name}
                label={label}
                type="file"
                accept="image/*"
                hint={
                  typeof value === 'number' ? (
                    <a className="underline" href={`/api/v1/files/${value}`} target="_blank" rel="noreferrer">
                      the picture kept
                    </a>
                  ) : (
                    question.hint
                  )
                }
                onChange={(event) => {
                  const [file] = event.target.files ?? [];
                  if (file)
                    void onFile(file).then(
                      (id) => set(question.key, id),
                      (error: unknown) => toast.error(sentenceOf(error)),
                    );
                }}
              />
            </div>
          );
        if (question.kind === 'date')
          return (
            <DayField
              key={question.key}
              name={name}
              label={label}
              hint={hintOf(question)}
              value={String(value ?? '')}
              onChange={(day) => set(question.key, day)}
            />
          );
        return (
          <TextField
            key={question.key}
            name={name}
            label={label}
            hint={hintOf(question)}
            inputMode={question.kind === 'number' ? 'decimal' : undefined}
            disabled={question.kind === 'photo' || question.kind === 'signature'}
            placeholder={question.kind === 'photo' || question.kind === 'signature' ? 'after it is made' : ''}
            value={String(value ?? '')}
            onChange={(event) => set(question.key, event.target.value)}
          />
        );
      })}
    </div>
  );
}

function hintOf(question: Question): string {
  const { least, most } = question;
  const bounds =
    least != null && most != null
      ? `${least} to ${most}`
      : least != null
        ? `at least ${least}`
        : most != null
          ? `at most ${most}`
          : '';
  return [question.hint, bounds].filter(Boolean).join(' · ');
}
