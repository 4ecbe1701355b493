import { useNavigate } from '@tanstack/react-router';
import { toast } from 'sonner';
import { Button } from '@/design/Button';
import { clockTime, dayName, isoDay } from '@/shared/time';
import { serverNow } from '@/shared/clock';
import { beginCall, dropDraft, putBack, useDrafts, type Draft } from './drafts';

interface Props {
  who: string;
  /** The one on the screen: it is not listed. */
  current: string;
}

/** What one has begun and not sent: taken up again, or thrown away. Nothing is shown while there is none. */
export function UnfinishedCalls({ who, current }: Props) {
  const navigate = useNavigate();
  const drafts = useDrafts(who).filter((draft) => draft.key !== current);
  if (drafts.length === 0) return null;
  const open = (draft: Draft) => {
    const [kind, id] = draft.key.split(' ');
    if (kind === 'call') beginCall(draft.key);
    const search =
      kind === 'request' ? { request: Number(id) } : kind === 'customer' ? { customer: Number(id) } : {};
    void navigate({ to: '/intake', search });
  };
  return (
    <section
      aria-label="Unfinished"
      className="max-h-44 shrink-0 overflow-y-auto border-b border-hairline bg-copper-wash"
    >
      <h2 className="px-3 pt-1.5 text-sm font-semibold">Begun and not sent · {drafts.length}</h2>
      <ul className="divide-y divide-hairline">
        {drafts.map((draft) => (
          <li key={draft.key} className="flex items-center gap-1 px-3 py-1 text-sm">
            <button
              type="button"
              className="min-w-0 flex-1 text-left hover:underline"
              onClick={() => open(draft)}
            >
              <span className="line-clamp-2">{draft.title}</span>
              <span className="text-xs text-ink-soft">
                {isoDay(draft.at) === isoDay(serverNow()) ? '' : `${dayName(draft.at)}, `}
                {clockTime(draft.at)}
              </span>
            </button>
            <Button
              rank="quiet"
              aria-label={`Throw away: ${draft.title}`}
              title="Throw away"
              onClick={() => {
                dropDraft(who, draft.key);
                toast('Thrown away', { action: { label: 'Undo', onClick: () => putBack(who, draft) } });
              }}
            >
              ✕
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
