import { complain } from '@/shared/complain';
// What is done to a technician's day besides its visits.

import { useMutation, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data } from '@/api/client';
import type { SchemaAbsenceIn, SchemaReminderIn, SchemaReminderOut } from '@/api/types';
import { useUndo } from '@/features/scheduling';
import { refreshSchedule } from '@/features/scheduling';

export function useNoteAbsence() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    mutationFn: (body: SchemaAbsenceIn) => data(api.POST('/api/v1/people/absences', { body })),
    onSuccess: () => told('Noted as absent', undo.mutate),
    onError: complain,
    onSettled: () => refreshSchedule(client),
  });
}

export function useRemoveAbsence() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    mutationFn: (id: number) =>
      data(api.DELETE('/api/v1/people/absences/{absence_id}', { params: { path: { absence_id: id } } })),
    onSuccess: () => told('There after all', undo.mutate),
    onError: complain,
    onSettled: () => refreshSchedule(client),
  });
}

export function useRemind() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: SchemaReminderIn) => data(api.POST('/api/v1/reminders', { body })),
    onError: complain,
    onSettled: () => refreshSchedule(client),
  });
}

export function useChangeReminder() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, version, at, text, done }: SchemaReminderOut) =>
      data(
        api.PUT('/api/v1/reminders/{reminder_id}', {
          params: { path: { reminder_id: id } },
          body: { version, at, text, done },
        }),
      ),
    onError: complain,
    onSettled: () => refreshSchedule(client),
  });
}

export function useForget() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    mutationFn: ({ id }: SchemaReminderOut) =>
      data(api.DELETE('/api/v1/reminders/{reminder_id}', { params: { path: { reminder_id: id } } })),
    onSuccess: () => told('Reminder removed', undo.mutate),
    onError: complain,
    onSettled: () => refreshSchedule(client),
  });
}

interface LockWish {
  day: string;
  days: number;
  who?: number;
  pinned: boolean;
}

/** Everything placed on some days, of everybody or of one technician. */
export function useLockDays() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    mutationFn: ({ day, days, who, pinned }: LockWish) =>
      data(api.POST('/api/v1/board/lock-days', { body: { day, days, technician_id: who ?? null, pinned } })),
    onSuccess: ({ changed }, { pinned }) => tellLocked(changed, pinned, undo.mutate),
    onError: complain,
    onSettled: () => refreshSchedule(client),
  });
}

/** Every visit of an order. */
export function useLockOrder() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    mutationFn: ({ orderId, pinned }: { orderId: number; pinned: boolean }) =>
      data(
        api.POST('/api/v1/orders/{order_id}/lock', {
          params: { path: { order_id: orderId } },
          body: { pinned },
        }),
      ),
    onSuccess: ({ changed }, { pinned }) => tellLocked(changed, pinned, undo.mutate),
    onError: complain,
    onSettled: () => refreshSchedule(client),
  });
}

function tellLocked(changed: number, pinned: boolean, undo: () => void) {
  const what = `${changed} visit${changed === 1 ? '' : 's'} ${pinned ? 'locked' : 'unlocked'}`;
  told(what, undo);
}

const told = (what: string, undo: () => void) =>
  toast.success(what, { action: { label: 'Undo', onClick: () => undo() } });
