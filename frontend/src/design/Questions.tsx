import type { ReactNode } from 'react';
import type { Question } from '@/shared/questions';
import { asked } from '@/shared/questions';
import { toast } from 'sonner';
import { sentenceOf, urlOf } from '@/api/client';
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
  return (
    <div className="grid grid-cols-2 gap-2">
      {asked(questions, answers).map((question) => {
        const Answer = ANSWERS[question.kind] ?? Typed;
        const needed = question.required === marks ? ' *' : '';
        return (
          <Answer
            key={question.key}
            question={question}
            name={`extra.${question.key}`}
            label={`${question.label}${question.unit ? ` (${question.unit})` : ''}${needed}`}
            value={answers[question.key]}
            onAnswer={(value) => onChange({ ...answers, [question.key]: value })}
            onFile={onFile}
          />
        );
      })}
    </div>
  );
}

interface AnswerProps {
  question: Question;
  name: string;
  label: string;
  value: unknown;
  onAnswer: (value: unknown) => void;
  onFile: Props['onFile'];
}

const ANSWERS: Partial<Record<Question['kind'], (props: AnswerProps) => ReactNode>> = {
  choice: Choice,
  yes_no: YesNo,
  photo: Picture,
  date: DayAnswer,
};

function Choice({ question, value, onAnswer, ...field }: AnswerProps) {
  return (
    <PickOne
      {...field}
      hint={question.hint}
      value={String(value ?? '')}
      choices={question.choices ?? []}
      onPick={onAnswer}
    />
  );
}

function YesNo({ question, value, onAnswer, ...field }: AnswerProps) {
  return (
    <PickOne
      {...field}
      hint={question.hint}
      value={typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value ?? '')}
      choices={['yes', 'no']}
      onPick={(picked) => onAnswer(picked === '' ? '' : picked === 'yes')}
    />
  );
}

interface PickProps {
  name: string;
  label: string;
  hint: Question['hint'];
  value: string;
  choices: string[];
  onPick: (picked: string) => void;
}

const PickOne = ({ name, label, hint, value, choices, onPick }: PickProps) => (
  <SelectField name={name} label={label} hint={hint} value={value} onChange={(e) => onPick(e.target.value)}>
    <option value="">not said</option>
    {choices.map((choice) => (
      <option key={choice}>{choice}</option>
    ))}
  </SelectField>
);

function Picture(props: AnswerProps) {
  const { question, name, label, value, onAnswer, onFile } = props;
  if (!onFile) return <Typed {...props} />;
  const kept = typeof value === 'number' && (
    <a
      className="underline"
      href={urlOf('/api/v1/files/{file_id}', { file_id: value })}
      target="_blank"
      rel="noreferrer"
    >
      the picture kept
    </a>
  );
  return (
    <div>
      <TextField
        name={name}
        label={label}
        type="file"
        accept="image/*"
        hint={kept || question.hint}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) void onFile(file).then(onAnswer, (error: unknown) => toast.error(sentenceOf(error)));
        }}
      />
    </div>
  );
}

function DayAnswer({ question, name, label, value, onAnswer }: AnswerProps) {
  return (
    <DayField
      name={name}
      label={label}
      hint={hintOf(question)}
      value={String(value ?? '')}
      onChange={onAnswer}
    />
  );
}

function Typed({ question, name, label, value, onAnswer }: AnswerProps) {
  // It is kept with the record, and there is none yet.
  const later = question.kind === 'photo' || question.kind === 'signature';
  return (
    <TextField
      name={name}
      label={label}
      hint={hintOf(question)}
      inputMode={question.kind === 'number' ? 'decimal' : undefined}
      disabled={later}
      placeholder={later ? 'after it is made' : ''}
      value={String(value ?? '')}
      onChange={(event) => onAnswer(event.target.value)}
    />
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
