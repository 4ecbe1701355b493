import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaEffectOut } from '@/api/types';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { dayName, moment } from '@/shared/time';
import { effectInWords } from './words';

const KEY = ['technician', 'days off'] as const;

/** Days off that technicians asked for, with what granting them means. */
export function DaysOffPage() {
  const waiting = useQuery({ queryKey: KEY, queryFn: () => data(api.GET('/api/v1/board/days-off')) });
  return (
    <div className="max-w-3xl space-y-3 p-4 text-sm">
      <h1 className="text-lg font-semibold">Days off</h1>
      <p className="text-ink-soft">
        Technicians ask for days off from the phone. Granted, they are an absence; what is placed then stays
        where it is and has to be given to others.
      </p>
      {waiting.isError && <Notice tone="bad">{sentenceOf(waiting.error)}</Notice>}
      {waiting.data?.length === 0 && <p>Nobody waits for an answer.</p>}
      <ul className="divide-y divide-hairline border-y border-hairline" aria-label="Waiting for an answer">
        {(waiting.data ?? []).map((row) => (
          <Waiting key={row.id} row={row} />
        ))}
      </ul>
    </div>
  );
}

function useAnswer(id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ what, answer }: { what: 'grant' | 'decline'; answer: string }) => {
      const init = { params: { path: { asked_id: id } }, body: { answer } };
      return data(
        what === 'grant'
          ? api.POST('/api/v1/board/days-off/{asked_id}/grant', init)
          : api.POST('/api/v1/board/days-off/{asked_id}/decline', init),
      );
    },
    onSuccess: (rows) => {
      client.setQueryData(KEY, rows);
      void client.invalidateQueries({ queryKey: ['schedule'] });
    },
  });
}

function Waiting({ row }: { row: SchemaEffectOut }) {
  const [words, setWords] = useState('');
  const answer = useAnswer(row.id);
  const first = dayName(moment(row.first_day, 720));
  const span = row.first_day === row.last_day ? first : `${first} to ${dayName(moment(row.last_day, 720))}`;
  return (
    <li className="space-y-1 py-2" aria-label={`${row.technician}, ${span}`}>
      <p>
        <b>{row.technician}</b>, {span}: {row.kind}
        {row.words && `, “${row.words}”`}
      </p>
      {effectInWords(row).map(({ words: said, tone }) => (
        <p key={said} className={tone === 'warn' ? 'text-warn' : 'text-ink-soft'}>
          {said}
        </p>
      ))}
      {row.visits > 0 && (
        <Link to="/board" search={{ day: row.first_day, span: 14 }} className="underline">
          Look at the board
        </Link>
      )}
      <div className="flex items-end gap-2">
        <TextField
          label="Answer, which the technician reads"
          className="flex-1"
          maxLength={300}
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <Button
          rank="main"
          disabled={answer.isPending}
          onClick={() => answer.mutate({ what: 'grant', answer: words })}
        >
          Grant
        </Button>
        <Button disabled={answer.isPending} onClick={() => answer.mutate({ what: 'decline', answer: words })}>
          Decline
        </Button>
      </div>
      <FormError error={answer.error} />
    </li>
  );
}
