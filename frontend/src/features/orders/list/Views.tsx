import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { useKeepView, useRemoveView, useViews, type ViewPage } from '../queries';

interface Props {
  page: ViewPage;
  /** What shows everything again. */
  all: string;
  /** What is kept under a name. */
  query: Record<string, unknown>;
  onShow: (query: unknown) => void;
}

/** Saved views of a list: one's own, and those that others share. */
export function Views({ page, all, query, onShow }: Props) {
  const views = useViews(page);
  const remove = useRemoveView();
  const [keeping, setKeeping] = useState(false);
  return (
    <section aria-label="Saved views" className="mb-3 text-sm">
      <p className="text-xs font-semibold text-ink-soft">Views</p>
      <ul>
        <li>
          <button type="button" className="py-0.5 hover:underline" onClick={() => onShow({})}>
            {all}
          </button>
        </li>
        {(views.data ?? []).map((view) => (
          <li key={view.id} className="flex items-center justify-between">
            <button
              type="button"
              className="min-w-0 truncate py-0.5 text-left hover:underline"
              title={view.own ? view.name : `${view.name}, shared by ${view.owner}`}
              onClick={() => onShow(view.query)}
            >
              {view.name}
              {view.shared && <span className="text-ink-soft"> · shared</span>}
            </button>
            {view.own && (
              <button
                type="button"
                aria-label={`Remove the view ${view.name}`}
                className="px-1 text-ink-soft"
                onClick={() => remove.mutate(view.id)}
              >
                ✕
              </button>
            )}
          </li>
        ))}
      </ul>
      {!keeping ? (
        <button type="button" className="text-ink-soft underline" onClick={() => setKeeping(true)}>
          save this view
        </button>
      ) : (
        <KeepForm page={page} query={query} onKept={() => setKeeping(false)} />
      )}
    </section>
  );
}

function KeepForm({ page, query, onKept }: Pick<Props, 'page' | 'query'> & { onKept: () => void }) {
  const keep = useKeepView();
  const [name, setName] = useState('');
  const [shared, setShared] = useState(false);
  return (
    <form
      className="space-y-1"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate(
          { page, name, shared, query },
          { onSuccess: onKept, onError: (error) => toast.error(sentenceOf(error)) },
        );
      }}
    >
      <input
        autoFocus
        aria-label="Name of the view"
        className="w-full rounded-sm border border-hairline bg-sheet px-1.5 py-1"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <label className="flex items-center gap-1">
        <input type="checkbox" checked={shared} onChange={(event) => setShared(event.target.checked)} />
        for everybody
      </label>
      <Button type="submit" disabled={!name.trim()}>
        Save view
      </Button>
    </form>
  );
}
