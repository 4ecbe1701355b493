// What somebody likes and would rather not do: skills that work needs, and areas, each once.

import type { SchemaTermsOut } from '@/api/types';

/** By `skill:doors` or `area:4`. */
export type Wishes = Record<string, 'likes' | 'avoids'>;

type Said = Pick<SchemaTermsOut, 'liked_skills' | 'avoided_skills' | 'liked_areas' | 'avoided_areas'>;

export function wishesOf(terms: Said): Wishes {
  const all = (keys: (string | number)[] | undefined, kind: string, word: Wishes[string]) =>
    (keys ?? []).map((key) => [`${kind}:${key}`, word] as const);
  return Object.fromEntries([
    ...all(terms.liked_skills, 'skill', 'likes'),
    ...all(terms.avoided_skills, 'skill', 'avoids'),
    ...all(terms.liked_areas, 'area', 'likes'),
    ...all(terms.avoided_areas, 'area', 'avoids'),
  ]);
}

export function saidOf(wishes: Wishes): Required<Said> {
  const of = (kind: string, word: Wishes[string]) =>
    Object.entries(wishes)
      .filter(([key, wish]) => key.startsWith(`${kind}:`) && wish === word)
      .map(([key]) => key.slice(kind.length + 1));
  return {
    liked_skills: of('skill', 'likes'),
    avoided_skills: of('skill', 'avoids'),
    liked_areas: of('area', 'likes').map(Number),
    avoided_areas: of('area', 'avoids').map(Number),
  };
}
