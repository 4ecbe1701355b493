import { useState, type ComponentType } from 'react';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { asked, type Question } from '@/shared/questions';
import type { OwnVisit } from '../sync/ahead';
import { answersOf } from '../sync/report';
import { useDraft } from './draft';
import { OneOf, YES_NO } from './OneOf';
import { PhotoAnswer, SignatureAnswer } from './pictureAnswers';
import { useRecord } from './record';
import { doubtOf, readAs } from './typedAnswers';

export interface AnswerProps {
  visit: OwnVisit;
  question: Question;
  value: unknown;
  onAnswer: (value: string | number | boolean | null, sure?: boolean) => void;
}

/** The form, question by question: each answer is kept as it is given. */
export function Answers({ visit }: { visit: OwnVisit }) {
  const record = useRecord(visit.id);
  const answers = answersOf(visit.report);
  const questions = asked(visit.report.questions as unknown as Question[], answers);
  return (
    <div className="space-y-6 p-4">
      {questions.map((question) => {
        const Answer = BY_KIND[question.kind] ?? Typed;
        const needed = question.required === 'to close' || question.required === 'to create';
        return (
          <fieldset key={question.key}>
            <legend className="mb-1 text-lg font-semibold">
              {question.label}
              {question.unit && ` (${question.unit})`}
              {needed && <span className="ml-2 text-sm font-normal text-ink-soft">needed</span>}
            </legend>
            {question.hint && <p className="mb-1 text-sm text-ink-soft">{question.hint}</p>}
            <Answer
              visit={visit}
              question={question}
              value={answers[question.key]}
              onAnswer={(value, sure) =>
                record.mutate({
                  kind: 'answer',
                  body: { key: question.key, value, ...(sure ? { sure } : {}) },
                })
              }
            />
          </fieldset>
        );
      })}
    </div>
  );
}

const BY_KIND: Partial<Record<Question['kind'], ComponentType<AnswerProps>>> = {
  choice: Choice,
  yes_no: YesNo,
  photo: PhotoAnswer,
  signature: SignatureAnswer,
};

function Choice({ question, value, onAnswer }: AnswerProps) {
  const choices = (question.choices ?? []).map((words) => ({ value: words, words }));
  return <OneOf label={question.label} choices={choices} value={value} onPick={onAnswer} />;
}

function YesNo({ question, value, onAnswer }: AnswerProps) {
  return <OneOf label={question.label} choices={YES_NO} value={value} onPick={onAnswer} />;
}

const shownAs = (value: unknown) => (value === undefined || value === null ? '' : String(value));

/** Text, a number or a date; what is typed is kept with every keystroke and written down when one leaves. */
function Typed({ visit, question, value, onAnswer }: AnswerProps) {
  const kept = shownAs(value);
  const draft = useDraft(`${visit.id} answer ${question.key}`, kept);
  const [doubt, setDoubt] = useState('');
  const write = (sure = false) => {
    const read = readAs(question, draft.text);
    if (shownAs(read) === kept) return void draft.done();
    const why = sure ? '' : doubtOf(question, read);
    setDoubt(why);
    if (why) return;
    onAnswer(read, sure);
    void draft.done();
  };
  const wrong =
    doubt !== '' && typeof readAs(question, draft.text) !== 'number' && question.kind === 'number';
  return (
    <>
      <input
        aria-label={question.label}
        aria-invalid={doubt !== ''}
        type={question.kind === 'date' ? 'date' : 'text'}
        inputMode={question.kind === 'number' ? 'decimal' : undefined}
        maxLength={2000}
        value={draft.text}
        onChange={(event) => draft.type(event.target.value)}
        onBlur={() => write()}
        className="min-h-14 w-full rounded-sm border border-hairline bg-sheet px-3 text-lg aria-invalid:border-bad"
      />
      {doubt && (
        <Notice tone="warn">
          <p>{doubt}</p>
          {!wrong && (
            <Button size="thumb" onClick={() => write(true)}>
              It is right
            </Button>
          )}
        </Notice>
      )}
    </>
  );
}
