import { useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { api, data } from '@/api/client';

export const certificatesKey = ['certificates'] as const;

/** All skills, by name; visits hold their keys. */
export function useSkills() {
  return useQuery({
    queryKey: ['skills'],
    queryFn: () => data(api.GET('/api/v1/people/skills')),
    staleTime: 300_000,
  });
}

/** What the skill with a key is called. */
export function useSkillName(): (code: string) => string {
  const rows = useSkills().data;
  return useCallback((code) => rows?.find((row) => row.code === code)?.name ?? code, [rows]);
}

/** All kinds of certificates, with how many technicians hold a valid one; job types hold their keys. */
export function useCertificates() {
  return useQuery({
    queryKey: certificatesKey,
    queryFn: () => data(api.GET('/api/v1/people/certificates')),
    staleTime: 300_000,
  });
}

/** Everybody who does visits. */
export function useTechnicians() {
  return useQuery({
    queryKey: ['technicians'],
    queryFn: () => data(api.GET('/api/v1/technicians')),
    staleTime: 300_000,
  });
}
