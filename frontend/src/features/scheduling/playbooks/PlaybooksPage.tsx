import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { Copy, FlaskConical, Star } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaPlaybookOut, SchemaPlaybooksOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { isoDay } from '@/shared/time';
import { serverNow } from '@/shared/clock';
import { keys, playbooksQuery } from '../queries';
import { useStartRun } from '../runs/commands';

/** What must hold, and what is worth how much: put together without code. */
export function PlaybooksPage() {
  const found = useQuery(playbooksQuery);
  const [chosen, setChosen] = useState<number | null>(null);
  if (found.isError) return <Notice tone="bad">{sentenceOf(found.error)}</Notice>;
  if (!found.data) return <p className="p-6 text-ink-soft">Fetching…</p>;
  const shown = found.data.playbooks.find((row) => row.id === chosen) ?? found.data.playbooks[0];
  return (
    <div className="flex h-full min-h-0">
      <nav aria-label="Playbooks" className="w-60 shrink-0 border-r border-hairline p-3">
        <h1 className="text-base font-semibold">Playbooks</h1>
        <p className="mt-1 mb-3 text-sm text-ink-soft">
          A playbook says which limits hold and what is worth how much. Openings and proposals go by it.
        </p>
        <ul>
          {found.data.playbooks.map((row) => (
            <li key={row.id}>
              <button
                type="button"
                aria-current={row.id === shown?.id}
                className="w-full rounded-sm px-2 py-1.5 text-left text-sm hover:bg-wash aria-current:bg-copper-wash aria-current:font-semibold"
                onClick={() => setChosen(row.id)}
              >
                {row.name}
                {row.is_default && <span className="font-normal text-ink-soft"> · default</span>}
              </button>
            </li>
          ))}
        </ul>
      </nav>
      {shown && <Editor key={shown.id} all={found.data} playbook={shown} onChosen={setChosen} />}
    </div>
  );
}

interface EditorProps {
  all: SchemaPlaybooksOut;
  playbook: SchemaPlaybookOut;
  onChosen: (id: number) => void;
}

function Editor({ all, playbook, onChosen }: EditorProps) {
  const session = useSession();
  const canEdit = may(session, 'edit_playbooks');
  // What was last seen saved, and what is being typed over it. Others' changes are taken over only while nothing
  // is typed; else saving says who was faster.
  const [saved, setSaved] = useState(playbook);
  const [draft, setDraft] = useState(playbook);
  const changed = JSON.stringify({ ...draft, version: 0 }) !== JSON.stringify({ ...saved, version: 0 });
  if (playbook.version > saved.version && !changed) {
    setSaved(playbook);
    setDraft(playbook);
  }
  const onSaved = (row: SchemaPlaybookOut) => {
    setSaved(row);
    setDraft((old) => ({ ...old, version: row.version, is_default: row.is_default }));
  };
  const { save, copy, star } = usePlaybookCommands(onChosen, onSaved);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate(draft);
  };
  return (
    <form onSubmit={submit} className="min-h-0 flex-1 overflow-y-auto p-4" aria-label={playbook.name}>
      <div className="flex max-w-4xl flex-wrap items-end gap-2">
        <TextField
          label="Name"
          className="w-64"
          value={draft.name}
          disabled={!canEdit}
          onChange={(e) => setDraft({ ...draft, name: e.target.value })}
        />
        {canEdit && (
          <Saving
            {...{ all, saved, draft, changed, playbook, save, copy, star }}
            onDiscard={() => setDraft(saved)}
          />
        )}
        {may(session, 'plan') && <TryIt playbook={playbook} disabled={changed} />}
      </div>
      {(save.isError || copy.isError || star.isError) && (
        <div className="mt-2 max-w-4xl">
          <Notice tone="bad">{sentenceOf(save.error ?? copy.error ?? star.error)}</Notice>
        </div>
      )}
      <div className="mt-4 grid max-w-5xl gap-8 lg:grid-cols-2">
        <Limits all={all} draft={draft} disabled={!canEdit} onDraft={setDraft} />
        <Aims all={all} draft={draft} disabled={!canEdit} onDraft={setDraft} />
      </div>
    </form>
  );
}

interface SavingProps extends Pick<EditorProps, 'all' | 'playbook'>, ReturnType<typeof usePlaybookCommands> {
  saved: SchemaPlaybookOut;
  draft: SchemaPlaybookOut;
  changed: boolean;
  onDiscard: () => void;
}

const Saving = ({ all, playbook, saved, draft, changed, onDiscard, save, copy, star }: SavingProps) => (
  <>
    <Button type="submit" rank="main" disabled={!changed || save.isPending}>
      Save
    </Button>
    {changed && <Button onClick={onDiscard}>Discard</Button>}
    <Button
      icon={<Copy size={15} />}
      disabled={copy.isPending}
      onClick={() => copy.mutate({ ...draft, name: copyName(all, draft.name) })}
    >
      Save as a copy
    </Button>
    <Button
      icon={<Star size={15} />}
      disabled={playbook.is_default || changed || star.isPending}
      onClick={() => star.mutate(saved)}
    >
      {playbook.is_default ? 'Is the default' : 'Make it the default'}
    </Button>
  </>
);

interface PartProps {
  all: SchemaPlaybooksOut;
  draft: SchemaPlaybookOut;
  disabled: boolean;
  onDraft: (draft: SchemaPlaybookOut) => void;
}

function Limits({ all, draft, disabled, onDraft }: PartProps) {
  const change = (limit: string, changes: Partial<SchemaPlaybookOut['limits'][number]>) =>
    onDraft({
      ...draft,
      limits: draft.limits.map((row) => (row.limit === limit ? { ...row, ...changes } : row)),
    });
  return (
    <section>
      <h2 className="font-semibold">Limits</h2>
      <p className="text-sm text-ink-soft">
        The planner proposes nothing that breaks a limit that is switched on.
      </p>
      <ul className="mt-2 divide-y divide-hairline">
        {all.limits.map((rule) => {
          const setting = draft.limits.find((row) => row.limit === rule.limit)!;
          return (
            <li key={rule.limit} className="py-1.5 text-sm">
              <label className="flex items-start gap-2">
                <input
                  type="checkbox"
                  className="mt-1"
                  checked={setting.on}
                  disabled={disabled}
                  onChange={(e) => change(rule.limit, { on: e.target.checked })}
                />
                <span>
                  <b className="font-semibold">{rule.name}</b>
                  <span className="block text-ink-soft">{rule.asks}</span>
                </span>
              </label>
              {rule.parameter && setting.on && (
                <label className="mt-1 ml-6 flex items-center gap-2 text-ink-soft">
                  {rule.parameter.split('this many')[0]}
                  <input
                    type="number"
                    min={0}
                    max={100000}
                    className="figures w-20 rounded-sm border border-hairline bg-sheet px-2 py-1"
                    value={setting.number ?? ''}
                    placeholder="–"
                    disabled={disabled}
                    aria-label={`${rule.name}: ${rule.parameter}`}
                    onChange={(e) =>
                      change(rule.limit, { number: e.target.value === '' ? null : Number(e.target.value) })
                    }
                  />
                  {rule.parameter.split('this many')[1]}
                </label>
              )}
            </li>
          );
        })}
      </ul>
      <p className="mt-2 text-xs text-ink-soft">
        Always held: {all.always.map((rule) => rule.name.toLowerCase()).join(', ')}.
      </p>
    </section>
  );
}

function Aims({ all, draft, disabled, onDraft }: PartProps) {
  return (
    <section>
      <h2 className="font-semibold">Aims</h2>
      <p className="text-sm text-ink-soft">
        What is worth how much. 1 is the plain price, 0 does not count; costs are seconds of driving.
      </p>
      <ul className="mt-2 divide-y divide-hairline">
        {all.aims.map((rule) => {
          const weight = draft.aims.find((row) => row.aim === rule.aim)?.weight ?? 0;
          return (
            <li key={rule.aim} className="flex items-start gap-3 py-1.5 text-sm">
              <input
                type="number"
                min={0}
                max={100}
                step="0.1"
                className="figures w-16 rounded-sm border border-hairline bg-sheet px-2 py-1"
                value={weight}
                disabled={disabled}
                aria-label={`Weight of ${rule.name}`}
                onChange={(e) =>
                  onDraft({
                    ...draft,
                    aims: draft.aims.map((row) =>
                      row.aim === rule.aim ? { ...row, weight: Math.max(0, Number(e.target.value)) } : row,
                    ),
                  })
                }
              />
              <span>
                <b className={`font-semibold ${weight ? '' : 'text-ink-soft'}`}>{rule.name}</b>
                <span className="block text-ink-soft">{rule.costs}</span>
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** On the board as it is, as a proposal: nothing changes. */
function TryIt({ playbook, disabled }: { playbook: SchemaPlaybookOut; disabled: boolean }) {
  const start = useStartRun();
  const navigate = useNavigate();
  return (
    <Button
      icon={<FlaskConical size={15} />}
      disabled={disabled || start.isPending}
      title="A proposal by this playbook, on the board as it is; nothing changes"
      onClick={() =>
        start.mutate(
          { kind: 'plan', day: isoDay(serverNow()), days: 3, playbook_id: playbook.id },
          { onSuccess: (run) => void navigate({ to: '/board', search: { run: run.id } }) },
        )
      }
    >
      Try it on the board
    </Button>
  );
}

function usePlaybookCommands(onChosen: (id: number) => void, onSaved: (row: SchemaPlaybookOut) => void) {
  const client = useQueryClient();
  const onSettled = () => client.invalidateQueries({ queryKey: keys.playbooks });
  const bodyOf = (draft: SchemaPlaybookOut) => ({ name: draft.name, limits: draft.limits, aims: draft.aims });
  const save = useMutation({
    mutationFn: (draft: SchemaPlaybookOut) =>
      data(
        api.PUT('/api/v1/playbooks/{playbook_id}', {
          params: { path: { playbook_id: draft.id } },
          body: { ...bodyOf(draft), version: draft.version },
        }),
      ),
    onSuccess: (row) => {
      onSaved(row);
      toast.success(`“${row.name}” saved`);
    },
    onSettled,
  });
  const copy = useMutation({
    mutationFn: (draft: SchemaPlaybookOut) => data(api.POST('/api/v1/playbooks', { body: bodyOf(draft) })),
    onSuccess: (row) => {
      toast.success(`“${row.name}” made`);
      onChosen(row.id);
    },
    onSettled,
  });
  const star = useMutation({
    mutationFn: (row: SchemaPlaybookOut) =>
      data(
        api.POST('/api/v1/playbooks/{playbook_id}/default', {
          params: { path: { playbook_id: row.id } },
          body: { version: row.version },
        }),
      ),
    onSuccess: (row) => {
      onSaved(row);
      toast.success(`“${row.name}” is the default now`);
    },
    onSettled,
  });
  return { save, copy, star };
}

function copyName(all: SchemaPlaybooksOut, name: string): string {
  const taken = new Set(all.playbooks.map((row) => row.name.toLowerCase()));
  let number = 2;
  while (taken.has(`${name} ${number}`.toLowerCase())) number += 1;
  return `${name} ${number}`;
}
