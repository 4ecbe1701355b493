import { useMutation, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
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
  return useMutation({
    mutationFn: ({ id, version, name, members }: CrewWish) =>
      id === undefined
        ? data(api.POST('/api/people/crews', { body: { name, members } }))
        : data(
            api.PUT('/api/people/crews/{crew_id}', {
              params: { path: { crew_id: id } },
              body: { version: version ?? 1, name, members },
            }),
          ),
    onSuccess: ({ name }) => toast.success(`The crew ${name} is kept`),
    onError: complain,
    onSettled: () => client.invalidateQueries({ queryKey: keys.crews }),
  });
}

export function useRemoveCrew() {
  const client = useQueryClient();
  const save = useSaveCrew();
  return useMutation({
    mutationFn: ({ id }: { id: number; name: string; members: number[] }) =>
      data(api.DELETE('/api/people/crews/{crew_id}', { params: { path: { crew_id: id } } })),
    onSuccess: (_nothing, { name, members }) =>
      toast.success(`The crew ${name} is dissolved`, {
        action: { label: 'Undo', onClick: () => save.mutate({ name, members }) },
      }),
    onError: complain,
    onSettled: () => client.invalidateQueries({ queryKey: keys.crews }),
  });
}

const complain = (error: unknown) => toast.error(sentenceOf(error), { duration: 8000 });
