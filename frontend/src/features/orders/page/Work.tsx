import { useState } from 'react';
import { usePartName } from '@/features/stock';
import type { SchemaOrderDetailOut } from '@/api/types';
import { Button } from '@/design/Button';
import type { Question } from '@/shared/questions';
import { WorkForm } from './WorkForm';

/** What is to be done: tasks, checklist, parts; changed for this order without touching its job type. */
export function Work({ row, canChange }: { row: SchemaOrderDetailOut; canChange: boolean }) {
  const [editing, setEditing] = useState(false);
  return (
    <section aria-label="What is to be done" className="space-y-2 text-sm">
      <div className="flex items-center gap-2">
        <h2 className="font-semibold">What is to be done</h2>
        {canChange && !row.over && (
          <Button aria-expanded={editing} onClick={() => setEditing((value) => !value)}>
            Change for this order
          </Button>
        )}
      </div>
      {editing ? (
        <WorkForm key={row.version} row={row} onDone={() => setEditing(false)} />
      ) : (
        <Shown row={row} />
      )}
    </section>
  );
}

function Shown({ row }: { row: SchemaOrderDetailOut }) {
  const checklist = row.checklist as unknown as Question[];
  const parts = Object.entries(row.parts);
  const partName = usePartName();
  return (
    <div className="grid grid-cols-2 gap-4">
      <div className="space-y-2">
        <div>
          <h3 className="text-xs font-semibold text-ink-soft">Tasks, in order</h3>
          <ol className="list-decimal pl-5">
            {row.tasks.map((task) => (
              <li key={task}>{task}</li>
            ))}
          </ol>
          {row.tasks.length === 0 && <p className="text-ink-soft">none</p>}
        </div>
        {parts.length > 0 && (
          <div>
            <h3 className="text-xs font-semibold text-ink-soft">Parts to take</h3>
            <ul>
              {parts.map(([part, count]) => (
                <li key={part}>
                  <span className="figures">{count} ×</span> {partName(part)}
                </li>
              ))}
            </ul>
          </div>
        )}
      </div>
      <div>
        <h3 className="text-xs font-semibold text-ink-soft">Checklist</h3>
        <ul>
          {checklist.map((question) => (
            <li key={question.key}>
              {question.label}{' '}
              <span className="text-ink-soft">
                {question.kind.replace('_', ' or ')}
                {question.required === 'to close' ? ', needed to close' : ''}
                {question.shown_if ? `, if ${question.shown_if[0].replaceAll('_', ' ')}` : ''}
              </span>
            </li>
          ))}
        </ul>
        {checklist.length === 0 && <p className="text-ink-soft">none</p>}
      </div>
    </div>
  );
}
