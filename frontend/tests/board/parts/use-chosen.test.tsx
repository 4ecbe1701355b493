import { renderHook } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { AnyVisit } from '@/features/board/model';
import { useChosen } from '@/features/board/lanes/useChosen';

const visit = (id: number, version = 1) => ({ id, version }) as AnyVisit;
const NOTHING: AnyVisit[] = [];
const ids = (rows: AnyVisit[]) => rows.map(({ id, version }) => `${id}/${version}`);

describe('what was chosen', () => {
  it('stays chosen when another day is shown, and is as new as it was last seen', () => {
    const monday = [visit(1), visit(2)];
    const chosen = new Set([1, 2]);
    const { result, rerender } = renderHook(({ placed, set }) => useChosen(NOTHING, placed, set), {
      initialProps: { placed: monday, set: chosen },
    });
    expect(ids(result.current)).toEqual(['1/1', '2/1']);
    rerender({ placed: [visit(2, 4), visit(3)], set: chosen });
    expect(ids(result.current)).toEqual(['1/1', '2/4']);
    const more = new Set([1, 2, 3]);
    rerender({ placed: [visit(3)], set: more });
    expect(ids(result.current)).toEqual(['1/1', '2/4', '3/1']);
    rerender({ placed: [visit(3)], set: new Set([3]) });
    expect(ids(result.current)).toEqual(['3/1']);
  });
});
