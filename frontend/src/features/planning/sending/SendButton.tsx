import { useQuery } from '@tanstack/react-query';
import { Send } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { sentenceOf } from '@/api/client';
import type { SchemaSendingOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { useSend, useSendDay } from '../commands';
import { previewQuery } from '../queries';

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
        onSend={() => send.mutate({ day, days, who }, { onSuccess: () => setOpen(false) })}
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
        onSend={() => send.mutate(visit, { onSuccess: () => setOpen(false) })}
      />
    </Popover.Root>
  );
}

interface MessagesProps {
  previews: SchemaSendingOut[] | undefined;
  error: unknown;
  onRetry: () => void;
  busy: boolean;
  onSend: () => void;
}

function Messages({ previews, error, onRetry, busy, onSend }: MessagesProps) {
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
          <p>{previews ? countWords(previews) : error ? 'Nothing was sent.' : 'Writing the messages…'}</p>
          <Button rank="main" disabled={busy || !previews?.length} onClick={onSend} autoFocus>
            {previews && previews.length > 1 ? `Send all ${previews.length}` : 'Send it'}
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
            <li key={row.visit_id} className="p-3">
              <p className="font-semibold">
                <span className="figures">{row.label}</span> {row.site}
                {row.again && <span className="font-normal text-warn"> · sent before, changed since</span>}
              </p>
              {row.drafts.map((draft) => (
                <p key={`${draft.kind} ${draft.name}`} className="mt-1">
                  <span className="text-ink-soft">
                    {draft.channel} to {draft.name}:
                  </span>{' '}
                  {draft.text}
                </p>
              ))}
            </li>
          ))}
        </ul>
      </Popover.Content>
    </Popover.Portal>
  );
}

function countWords(previews: SchemaSendingOut[]): string {
  const again = previews.filter((row) => row.again).length;
  const messages = previews.reduce((sum, row) => sum + row.drafts.length, 0);
  const visits = `${previews.length} visit${previews.length === 1 ? '' : 's'}`;
  const changed = again ? `, ${again} of them changed since they were sent` : '';
  return `${visits}${changed}: ${messages} messages`;
}
