import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { Sheet } from '@/design/Sheet';
import { useState, type FormEvent } from 'react';
import type { SchemaCrewOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField, TextField } from '@/design/Field';
import { crewsQuery, headsQuery, togetherQuery } from '../queries';
import { useRemoveCrew, useSaveCrew } from './commands';

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

interface Draft {
  id?: number;
  version?: number;
  name: string;
  members: number[];
}

const NEW: Draft = { name: '', members: [] };
const SUGGESTED = 5;

/** Standing crews: who goes together as a rule; and who often does without being one. */
export function CrewsDialog({ open, onOpenChange }: Props) {
  const [draft, setDraft] = useState<Draft | null>(null);
  return (
    <Sheet open={open} onOpenChange={onOpenChange} title="Crews" closeLabel="Close the crews">
      <p className="text-ink-soft">
        Who goes together as a rule. “By crew” in the drawing of the board gives each a line: what is dropped
        on it is placed with all of them.
      </p>
      {draft ? (
        <Edit key={draft.id ?? draft.members.join()} draft={draft} onDone={() => setDraft(null)} />
      ) : (
        <Listed onEdit={setDraft} />
      )}
    </Sheet>
  );
}

function useNames(): (id: number) => string {
  const heads = useQuery(headsQuery).data ?? [];
  const names = new Map(heads.map((head) => [head.technician_id, head.name]));
  return (id) => names.get(id) ?? 'somebody';
}

function Listed({ onEdit }: { onEdit: (draft: Draft) => void }) {
  const crews = useQuery(crewsQuery).data ?? [];
  const often = useQuery(togetherQuery).data ?? [];
  const remove = useRemoveCrew();
  const nameOf = useNames();
  const known = new Set(crews.map((crew) => [...crew.members].sort((a, b) => a - b).join()));
  const suggested = often.filter((row) => !known.has(row.members.join())).slice(0, SUGGESTED);
  return (
    <>
      <ul aria-label="Standing crews" className="mt-3 divide-y divide-hairline border-y border-hairline">
        {crews.map((crew: SchemaCrewOut) => (
          <li key={crew.id} className="flex items-center gap-2 py-1.5">
            <span className="min-w-0 flex-1">
              <b className="font-semibold">{crew.name}</b>
              <span className="block text-ink-soft">{crew.members.map(nameOf).join(', ')}</span>
            </span>
            <Button aria-label={`Change ${crew.name}`} onClick={() => onEdit(crew)}>
              Change
            </Button>
            <Button
              rank="quiet"
              aria-label={`Dissolve ${crew.name}`}
              disabled={remove.isPending}
              onClick={() => remove.mutate(crew)}
            >
              Dissolve
            </Button>
          </li>
        ))}
        {crews.length === 0 && <li className="py-2 text-ink-soft">There are no standing crews.</li>}
      </ul>
      <Button className="mt-3" rank="main" onClick={() => onEdit(NEW)}>
        A new crew
      </Button>
      {suggested.length > 0 && (
        <>
          <h3 className="mt-4 text-xs font-semibold text-ink-soft">Often together in the last half year</h3>
          <ul aria-label="Often together" className="mt-1 divide-y divide-hairline">
            {suggested.map((row) => (
              <li key={row.members.join()} className="flex items-center gap-2 py-1.5">
                <span className="min-w-0 flex-1">
                  {row.members.map(nameOf).join(' and ')}
                  <span className="text-ink-soft"> · {row.visits} visits</span>
                </span>
                <Button onClick={() => onEdit({ name: '', members: row.members })}>Make it a crew</Button>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

function Edit({ draft, onDone }: { draft: Draft; onDone: () => void }) {
  const [name, setName] = useState(draft.name);
  const [members, setMembers] = useState(draft.members);
  const heads = useQuery(headsQuery).data ?? [];
  const save = useSaveCrew();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate({ ...draft, name, members }, { onSuccess: onDone });
  };
  return (
    <form onSubmit={submit} aria-label="A crew" className="mt-3 space-y-3">
      <TextField
        label="Name"
        autoFocus
        maxLength={60}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Members members={members} onChange={setMembers} />
      <SelectField
        label="Add somebody"
        value=""
        onChange={(event) => event.target.value && setMembers([...members, Number(event.target.value)])}
      >
        <option value="">choose…</option>
        {heads
          .filter((head) => !members.includes(head.technician_id))
          .map((head) => (
            <option key={head.technician_id} value={head.technician_id}>
              {head.name}
            </option>
          ))}
      </SelectField>
      <div className="flex gap-2">
        <Button type="submit" rank="main" disabled={!name.trim() || members.length < 2 || save.isPending}>
          Save the crew
        </Button>
        <Button rank="quiet" onClick={onDone}>
          Back
        </Button>
      </div>
    </form>
  );
}

function Members({ members, onChange }: { members: number[]; onChange: (members: number[]) => void }) {
  const nameOf = useNames();
  return (
    <ol aria-label="Members" className="divide-y divide-hairline border-y border-hairline">
      {members.map((id, index) => (
        <li key={id} className="flex items-center gap-2 py-1">
          <span className="flex-1">
            {nameOf(id)}
            {index === 0 && <span className="text-ink-soft"> · leads</span>}
          </span>
          {index > 0 && (
            <Button rank="quiet" onClick={() => onChange([id, ...members.filter((other) => other !== id)])}>
              Let lead
            </Button>
          )}
          <Button
            rank="quiet"
            icon={<X size={14} />}
            aria-label={`Take ${nameOf(id)} out`}
            onClick={() => onChange(members.filter((other) => other !== id))}
          />
        </li>
      ))}
      {members.length < 2 && <li className="py-1.5 text-ink-soft">A crew has at least two members.</li>}
    </ol>
  );
}
