import { useQuery } from '@tanstack/react-query';
import { api, data } from '@/api/client';

/** Names of all skills. */
export function useSkills() {
  return useQuery({
    queryKey: ['skills'],
    queryFn: () => data(api.GET('/api/v1/people/skills')),
    staleTime: Infinity,
    select: (skills) => skills.map((skill) => skill.name),
  });
}

/** Names of all certificates, with how many technicians hold a valid one. */
export function useCertificates() {
  return useQuery({
    queryKey: ['certificates'],
    queryFn: () => data(api.GET('/api/v1/people/certificates')),
    staleTime: 300_000,
  });
}

/** Everybody who does visits. */
export function useTechnicians() {
  return useQuery({
    queryKey: ['technicians'],
    queryFn: () => data(api.GET('/api/v1/people/technicians')),
    staleTime: 300_000,
  });
}
