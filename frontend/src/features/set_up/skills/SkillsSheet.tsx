import { Link } from '@tanstack/react-router';
import { useRef, useState, type KeyboardEvent } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaSkillsRowOut } from '@/api/types';
import { Notice } from '@/design/Notice';
import { may, useSession, useSkills } from '@/features/people';
import { useSetSkill, useSkillsSheet } from '../queries';
import { levelOf, moved, type Cell } from './sheet';

/** Who can do what, as a sheet: a line for each technician, a column for each skill, levels typed into it. */
export function SkillsSheet() {
  const sheet = useSkillsSheet();
  const skills = (useSkills().data ?? []).filter((skill) => !skill.retired);
  const canChange = may(useSession(), 'change_settings');
  const error = sheet.error;
  return (
    <div className="flex h-full min-h-0 flex-col gap-3 p-4">
      <header>
        <h1 className="text-lg font-semibold">Who can do what</h1>
        <p className="text-sm text-ink-soft">
          Levels 1 to 5. {canChange && 'Type a level into a cell, 0 to clear it; arrows lead on.'}
        </p>
      </header>
      {error && <Notice tone="bad">{sentenceOf(error)}</Notice>}
      {sheet.data?.length === 0 && (
        <p className="text-ink-soft">
          There are no technicians yet.{' '}
          <Link to="/set-up/people" className="underline">
            Add one
          </Link>
          .
        </p>
      )}
      {sheet.isSuccess && skills.length === 0 && (
        <p className="text-ink-soft">
          There are no skills yet.{' '}
          <Link to="/set-up/skills" className="underline">
            Name some
          </Link>
          .
        </p>
      )}
      {sheet.data && sheet.data.length > 0 && skills.length > 0 && (
        <Grid rows={sheet.data} skills={skills} canChange={canChange} />
      )}
    </div>
  );
}

interface GridProps {
  rows: SchemaSkillsRowOut[];
  skills: { code: string; name: string }[];
  canChange: boolean;
}

function Grid({ rows, skills, canChange }: GridProps) {
  const set = useSetSkill();
  const table = useRef<HTMLTableElement>(null);
  const [here, setHere] = useState<Cell>({ row: 0, column: 0 });
  const write = ({ row, column }: Cell, level: number | null) => {
    const [person, skill] = [rows[row]!, skills[column]!];
    const before = person.skills[skill.code] ?? null;
    if (!canChange || before === level) return;
    const words = level === null ? 'cleared' : `at level ${level}`;
    const change = (wanted: number | null) => ({ id: person.id, code: skill.code, level: wanted });
    set.mutate(change(level), {
      onSuccess: () =>
        toast.success(`${skill.name} of ${person.name}: ${words}`, {
          action: { label: 'Undo', onClick: () => set.mutate(change(before)) },
        }),
    });
  };
  const onKeyDown = (event: KeyboardEvent, at: Cell) => {
    const level = levelOf(event.key);
    if (level !== undefined) write(at, level);
    const next = moved(event.key, at, rows.length, skills.length);
    if (level === undefined && next.row === at.row && next.column === at.column) return;
    event.preventDefault();
    setHere(next);
    table.current
      ?.querySelector<HTMLElement>(`[data-cell="${next.row} ${next.column}"]`)
      ?.focus({ preventScroll: false });
  };
  return (
    <>
      {set.error && <Notice tone="bad">{sentenceOf(set.error)}</Notice>}
      <div className="min-h-0 flex-1 overflow-auto border border-hairline">
        <table ref={table} role="grid" aria-label="Who can do what" className="text-sm">
          <Heads skills={skills} />
          <tbody>
            {rows.map((person, row) => (
              <Line
                key={person.id}
                {...{ person, row, skills, here, canChange, onKeyDown }}
                onHere={setHere}
              />
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

const Heads = ({ skills }: { skills: GridProps['skills'] }) => (
  <thead className="sticky top-0 z-10 bg-paper">
    <tr>
      <th scope="col" className="sticky left-0 bg-paper px-2 text-left">
        Technician
      </th>
      {skills.map((skill) => (
        <th key={skill.code} scope="col" className="h-40 w-9 align-bottom font-normal">
          <span className="block max-h-40 rotate-180 truncate pt-1 [writing-mode:vertical-rl]">
            {skill.name}
          </span>
        </th>
      ))}
    </tr>
  </thead>
);

interface LineProps {
  person: SchemaSkillsRowOut;
  row: number;
  skills: GridProps['skills'];
  here: Cell;
  canChange: boolean;
  onHere: (cell: Cell) => void;
  onKeyDown: (event: KeyboardEvent, at: Cell) => void;
}

const Line = ({ person, row, skills, here, canChange, onHere, onKeyDown }: LineProps) => (
  <tr className="border-t border-hairline hover:bg-wash">
    <th scope="row" className="sticky left-0 bg-paper px-2 text-left font-semibold whitespace-nowrap">
      {person.name}
    </th>
    {skills.map((skill, column) => {
      const level = person.skills[skill.code];
      return (
        <td
          key={skill.code}
          role="gridcell"
          data-cell={`${row} ${column}`}
          aria-readonly={!canChange}
          aria-label={`${skill.name} of ${person.name}: ${level ?? 'none'}`}
          tabIndex={here.row === row && here.column === column ? 0 : -1}
          className="figures h-7 w-9 cursor-cell border-l border-hairline text-center focus:bg-copper-wash"
          onFocus={() => onHere({ row, column })}
          onClick={(event) => event.currentTarget.focus()}
          onKeyDown={(event) => onKeyDown(event, { row, column })}
        >
          {level ?? <span className="text-ink-soft/50">·</span>}
        </td>
      );
    })}
  </tr>
);
