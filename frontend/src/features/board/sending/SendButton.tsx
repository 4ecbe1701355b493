import { useQuery } from '@tanstack/react-query';
import { Send } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaSendingOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { useSend, useSendDay, type How } from '../commands';
import { previewQuery } from '../queries';
import { Drafts } from './Drafts';
import { written } from './written';

interface Props {
  /** How many visits nobody was told about. */
  count: number;
  day: string;
  days: number;
  /** Only this technician's. */
  who?: number;
}

/** Send what is placed, once one has read what is written to whom. */
export function SendButton({ count, day, days, who }: Props) {
  const [open, setOpen] = useState(false);
  const send = useSendDay();
  const preview = useQuery({ ...previewQuery({ day, days, who }), enabled: open });
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button
          rank="main"
          icon={<Send size={15} />}
          disabled={count === 0}
          title="Tell technicians and customers what is placed and was not sent; you read it first"
        >
          {count === 0 ? 'All sent' : `Send ${count}`}
        </Button>
      </Popover.Trigger>
      <Messages
        previews={preview.data}
        error={preview.error}
        onRetry={() => void preview.refetch()}
        busy={send.isPending}
        onSend={(settled) =>
          send.mutate(
            {
              day,
              days,
              who,
              settled: [...settled].map(([visit_id, how]) => ({ visit_id, how })),
            },
            { onSuccess: () => setOpen(false) },
          )
        }
      />
    </Popover.Root>
  );
}

/** Send one visit, once one has read what is written to whom. */
export function SendVisitButton({ visit }: { visit: { id: number; version: number } }) {
  const [open, setOpen] = useState(false);
  const send = useSend();
  const preview = useQuery({ ...previewQuery({ visit: visit.id }), enabled: open });
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button rank="main" icon={<Send size={15} />} title="You read what is written first">
          Send
        </Button>
      </Popover.Trigger>
      <Messages
        previews={preview.data}
        error={preview.error}
        onRetry={() => void preview.refetch()}
        busy={send.isPending}
        onSend={(settled) =>
          send.mutate({ visit, how: settled.get(visit.id) ?? null }, { onSuccess: () => setOpen(false) })
        }
      />
    </Popover.Root>
  );
}

type Settled = ReadonlyMap<number, How>;

interface MessagesProps {
  previews: SchemaSendingOut[] | undefined;
  error: unknown;
  onRetry: () => void;
  busy: boolean;
  onSend: (settled: Settled) => void;
}

const NONE: Settled = new Map();

function Messages({ previews, error, onRetry, busy, onSend }: MessagesProps) {
  const [settled, setSettled] = useState(NONE);
  const ready = previews?.filter((row) => !row.elsewhere || settled.has(row.visit_id)).length ?? 0;
  return (
    <Popover.Portal>
      <Popover.Content
        align="end"
        sideOffset={4}
        collisionPadding={8}
        aria-label="What is sent"
        className="z-40 flex max-h-[70vh] w-[26rem] flex-col rounded-sm border border-ink bg-sheet text-sm"
      >
        <div className="flex items-center justify-between gap-3 border-b border-hairline p-3">
          <p>
            {previews ? countWords(previews, settled) : error ? 'Nothing was sent.' : 'Writing the messages…'}
          </p>
          <Button rank="main" disabled={busy || ready === 0} onClick={() => onSend(settled)} autoFocus>
            {buttonWords(ready, previews?.length ?? 0)}
          </Button>
        </div>
        {error !== null && (
          <div className="space-y-2 p-3">
            <Notice tone="bad">{sentenceOf(error)}</Notice>
            <Button onClick={onRetry}>Try again</Button>
          </div>
        )}
        <ul
          aria-label="Messages"
          tabIndex={0}
          className="min-h-0 flex-1 divide-y divide-hairline overflow-y-auto"
        >
          {previews?.map((row) => (
            <Drafts
              key={row.visit_id}
              row={row}
              how={settled.get(row.visit_id)}
              onHow={(how) => setSettled((old) => new Map(old).set(row.visit_id, how))}
            />
          ))}
        </ul>
      </Popover.Content>
    </Popover.Portal>
  );
}

function buttonWords(ready: number, all: number): string {
  if (ready < all) return all === 1 ? 'Settle the promise' : `Send ${ready} of ${all}`;
  return all > 1 ? `Send all ${all}` : 'Send it';
}

function countWords(previews: SchemaSendingOut[], settled: Settled): string {
  const again = previews.filter((row) => row.again).length;
  const elsewhere = previews.filter((row) => row.elsewhere).length;
  const messages = previews.reduce((sum, row) => sum + written(row, settled.get(row.visit_id)).length, 0);
  const visits = `${previews.length} visit${previews.length === 1 ? '' : 's'}`;
  const changed = again ? `, ${again} of them changed since they were sent` : '';
  const other = elsewhere ? `, ${elsewhere} on another day than promised` : '';
  return `${visits}${changed}${other}: ${messages} messages`;
}
