import { Button } from '@/design/Button';
import type { Question } from '@/shared/questions';

const KINDS: [Question['kind'], string][] = [
  ['text', 'text'],
  ['number', 'number'],
  ['choice', 'choice'],
  ['yes_no', 'yes or no'],
  ['date', 'date'],
  ['photo', 'picture'],
  ['signature', 'signature'],
];
const BOX = 'rounded-sm border border-hairline bg-sheet px-1.5 py-1 text-sm';

interface Props {
  questions: Question[];
  onChange: (questions: Question[]) => void;
  /** Own fields have no signature, checklists no “to create”. */
  for_: 'record' | 'checklist';
}

/** Compose questions without code: kinds, limits, what is needed, what is only asked on a condition. */
export function QuestionsEditor({ questions, onChange, for_ }: Props) {
  const set = (index: number, changes: Partial<Question>) =>
    onChange(questions.map((row, at) => (at === index ? { ...row, ...changes } : row)));
  const move = (index: number, by: number) => {
    const next = [...questions];
    const [row] = next.splice(index, 1);
    next.splice(index + by, 0, row!);
    onChange(next);
  };
  const add = () =>
    onChange([
      ...questions,
      { key: freeKey(questions), label: '', kind: 'text', required: 'never', choices: [], shown_if: null },
    ]);
  return (
    <div className="space-y-1.5">
      {questions.map((row, index) => (
        <div
          key={index}
          className="flex flex-wrap items-center gap-1.5 border-b border-hairline pb-1.5"
          role="group"
          aria-label={`Question ${index + 1}`}
        >
          <Asked row={row} set={(changes) => set(index, changes)} for_={for_} />
          <Condition
            row={row}
            earlier={questions.slice(0, index)}
            onChange={(shown_if) => set(index, { shown_if })}
          />
          <span className="ml-auto flex">
            <Button rank="quiet" aria-label="Up" disabled={index === 0} onClick={() => move(index, -1)}>
              ↑
            </Button>
            <Button
              rank="quiet"
              aria-label="Down"
              disabled={index === questions.length - 1}
              onClick={() => move(index, 1)}
            >
              ↓
            </Button>
            <Button
              rank="quiet"
              aria-label={`Remove ${row.label || 'the question'}`}
              onClick={() => onChange(questions.filter((_, at) => at !== index))}
            >
              ✕
            </Button>
          </span>
        </div>
      ))}
      <Button onClick={add}>Add a question</Button>
    </div>
  );
}

interface RowProps {
  row: Question;
  set: (changes: Partial<Question>) => void;
}

/** What is asked, in which way, and whether it is needed. */
function Asked({ row, set, for_ }: RowProps & Pick<Props, 'for_'>) {
  return (
    <>
      <input
        aria-label="Words"
        placeholder="what is asked"
        className={`${BOX} w-56`}
        value={row.label}
        onChange={(event) => set({ label: event.target.value })}
      />
      <select
        aria-label="Kind"
        className={BOX}
        value={row.kind}
        onChange={(event) => set({ kind: event.target.value as Question['kind'] })}
      >
        {KINDS.filter(([kind]) => for_ === 'checklist' || kind !== 'signature').map(([kind, words]) => (
          <option key={kind} value={kind}>
            {words}
          </option>
        ))}
      </select>
      {row.kind === 'choice' && (
        <input
          aria-label="Choices"
          placeholder="choices, with commas between"
          className={`${BOX} w-56`}
          value={(row.choices ?? []).join(',')}
          onChange={(event) => set({ choices: event.target.value.split(',') })}
        />
      )}
      {row.kind === 'number' && <Limits row={row} set={set} />}
      <select
        aria-label="Needed"
        className={BOX}
        value={row.required ?? 'never'}
        onChange={(event) => set({ required: event.target.value })}
      >
        <option value="never">not needed</option>
        {for_ === 'record' && <option value="to create">needed to create</option>}
        <option value="to close">needed to close</option>
      </select>
    </>
  );
}

function Limits({ row, set }: RowProps) {
  return (
    <>
      {(['least', 'most'] as const).map((name) => (
        <input
          key={name}
          aria-label={name === 'least' ? 'At least' : 'At most'}
          placeholder={name === 'least' ? 'at least' : 'at most'}
          inputMode="decimal"
          className={`${BOX} w-20`}
          value={row[name] ?? ''}
          onChange={({ target }) => set({ [name]: target.value.trim() === '' ? null : Number(target.value) })}
        />
      ))}
      <input
        aria-label="Unit"
        placeholder="unit"
        className={`${BOX} w-16`}
        value={row.unit ?? ''}
        onChange={(event) => set({ unit: event.target.value })}
      />
    </>
  );
}

function Condition({
  row,
  earlier,
  onChange,
}: {
  row: Question;
  earlier: Question[];
  onChange: (shown_if: Question['shown_if']) => void;
}) {
  const able = earlier.filter((one) => one.kind === 'yes_no' || one.kind === 'choice');
  if (able.length === 0 && !row.shown_if) return null;
  const options = able.flatMap((one) =>
    one.kind === 'yes_no'
      ? [true, false].map((value) => ({ key: one.key, label: one.label, value: value as unknown }))
      : (one.choices ?? []).map((value) => ({ key: one.key, label: one.label, value: value as unknown })),
  );
  const at = options.findIndex(
    (option) => option.key === row.shown_if?.[0] && option.value === row.shown_if[1],
  );
  return (
    <select
      aria-label="Asked if"
      className={`${BOX} max-w-48`}
      value={at}
      onChange={(event) => {
        const option = options[Number(event.target.value)];
        onChange(option ? [option.key, option.value] : null);
      }}
    >
      <option value={-1}>always asked</option>
      {options.map((option, index) => (
        <option key={index} value={index}>
          if {option.label}:{' '}
          {option.value === true ? 'yes' : option.value === false ? 'no' : String(option.value)}
        </option>
      ))}
    </select>
  );
}

function freeKey(questions: Question[]): string {
  let number = questions.length + 1;
  while (questions.some((row) => row.key === `question_${number}`)) number++;
  return `question_${number}`;
}
