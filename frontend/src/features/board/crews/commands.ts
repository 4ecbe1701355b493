import { complain } from '@/shared/complain';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data } from '@/api/client';
import { useUndo } from '@/features/scheduling';
import { keys } from '../queries';

interface CrewWish {
  /** Left out: a new crew. */
  id?: number;
  version?: number;
  name: string;
  members: number[];
}

export function useSaveCrew() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    mutationFn: ({ id, version, name, members }: CrewWish) =>
      id === undefined
        ? data(api.POST('/api/v1/people/crews', { body: { name, members } }))
        : data(
            api.PUT('/api/v1/people/crews/{crew_id}', {
              params: { path: { crew_id: id } },
              body: { version: version ?? 1, name, members },
            }),
          ),
    onSuccess: ({ name }) =>
      toast.success(`The crew ${name} is kept`, { action: { label: 'Undo', onClick: () => undo.mutate() } }),
    onError: complain,
    onSettled: () => client.invalidateQueries({ queryKey: keys.crews }),
  });
}

export function useRemoveCrew() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    mutationFn: ({ id }: { id: number; name: string }) =>
      data(api.DELETE('/api/v1/people/crews/{crew_id}', { params: { path: { crew_id: id } } })),
    onSuccess: (_nothing, { name }) =>
      toast.success(`The crew ${name} is dissolved`, {
        action: { label: 'Undo', onClick: () => undo.mutate() },
      }),
    onError: complain,
    onSettled: () => client.invalidateQueries({ queryKey: keys.crews }),
  });
}
