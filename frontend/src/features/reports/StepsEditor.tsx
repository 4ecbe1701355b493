import { ArrowDown, ArrowUp, X } from 'lucide-react';
import type { SchemaWorkStepIn } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField } from '@/design/Field';
import { KIND_WORDS, WAY } from '@/shared/steps';

const USUAL: SchemaWorkStepIn[] = Object.keys(KIND_WORDS).map((kind) => ({ kind, must: WAY.includes(kind) }));

interface Props {
  /** None: the usual ones. */
  steps: SchemaWorkStepIn[];
  onChange: (steps: SchemaWorkStepIn[]) => void;
}

/** Which steps the phone leads through, in which order, and which have to be done before the work is finished. */
export function StepsEditor({ steps, onChange }: Props) {
  const rows = steps.length > 0 ? steps : USUAL;
  const left = Object.keys(KIND_WORDS).filter((kind) => !rows.some((row) => row.kind === kind));
  const set = (kind: string, must: boolean) =>
    onChange(rows.map((row) => (row.kind === kind ? { kind, must } : row)));
  return (
    <div className="max-w-xl space-y-2 text-sm">
      <ol className="divide-y divide-hairline border-y border-hairline" aria-label="Steps of the work">
        {rows.map((row, index) => (
          <Row
            key={row.kind}
            row={row}
            above={canSwap(rows, index - 1)}
            below={canSwap(rows, index)}
            onMust={(must) => set(row.kind, must)}
            onMove={(by) => onChange(moved(rows, index, by))}
            onRemove={() => onChange(rows.filter((other) => other !== row))}
          />
        ))}
      </ol>
      <div className="flex items-end gap-2">
        {left.length > 0 && (
          <SelectField
            label="Add a step"
            value=""
            onChange={(event) => onChange(added(rows, event.target.value))}
          >
            <option value="">choose</option>
            {left.map((kind) => (
              <option key={kind} value={kind}>
                {KIND_WORDS[kind]}
              </option>
            ))}
          </SelectField>
        )}
        {steps.length > 0 && <Button onClick={() => onChange([])}>Take the usual steps</Button>}
      </div>
    </div>
  );
}

/** Whether a step and the one behind it may change places: the visit's own way keeps its order. */
function canSwap(rows: readonly SchemaWorkStepIn[], index: number): boolean {
  const [one, other] = [rows[index], rows[index + 1]];
  if (!one || !other || other.kind === 'finish') return false;
  return !WAY.includes(one.kind) || !WAY.includes(other.kind);
}

function moved(rows: SchemaWorkStepIn[], index: number, by: -1 | 1): SchemaWorkStepIn[] {
  const next = [...rows];
  [next[index], next[index + by]] = [next[index + by]!, next[index]!];
  return next;
}

/** Before finishing, which stays the last. */
const added = (rows: SchemaWorkStepIn[], kind: string): SchemaWorkStepIn[] =>
  kind ? [...rows.slice(0, -1), { kind, must: false }, rows.at(-1)!] : rows;

interface RowProps {
  row: SchemaWorkStepIn;
  above: boolean;
  below: boolean;
  onMust: (must: boolean) => void;
  onMove: (by: -1 | 1) => void;
  onRemove: () => void;
}

function Row({ row, above, below, onMust, onMove, onRemove }: RowProps) {
  const words = KIND_WORDS[row.kind]!;
  const own = WAY.includes(row.kind);
  return (
    <li className="flex items-center gap-2 py-1">
      <span className="flex-1">{words}</span>
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          aria-label={`${words} has to be done`}
          checked={own || row.must}
          disabled={own}
          onChange={(event) => onMust(event.target.checked)}
        />
        has to be done
      </label>
      <Button
        rank="quiet"
        aria-label={`${words} earlier`}
        disabled={!above}
        onClick={() => onMove(-1)}
        icon={<ArrowUp size={15} />}
      />
      <Button
        rank="quiet"
        aria-label={`${words} later`}
        disabled={!below}
        onClick={() => onMove(1)}
        icon={<ArrowDown size={15} />}
      />
      <Button
        rank="quiet"
        aria-label={`Without ${words}`}
        disabled={own}
        onClick={onRemove}
        icon={<X size={15} />}
      />
    </li>
  );
}
