import { describe, expect, it } from 'vitest';
import type { SchemaAction, SchemaRole } from '@/api/types';
import { atTheTop, MOST_AT_THE_TOP, PLACES } from '@/shared/places';

const ROLES: SchemaRole[] = ['administrator', 'manager', 'dispatcher', 'intake', 'reviewer', 'technician'];
const all = () => true;

describe('the places at the top', () => {
  it.each(ROLES)('are at most seven for %s, each once', (role) => {
    const shown = atTheTop(role, all).flat();
    expect(shown.length).toBeLessThanOrEqual(MOST_AT_THE_TOP);
    expect(new Set(shown.map((place) => place.to)).size).toBe(shown.length);
  });

  it('stand in the order of the work, in groups', () => {
    const words = atTheTop('dispatcher', all).map((group) => group.map((place) => place.words));
    expect(words).toEqual([
      ['Intake', 'Requests', 'Quotes'],
      ['Board'],
      ['Orders', 'Customers', 'Stock'],
      ['Outbox'],
    ]);
  });

  it('are only those that may be seen', () => {
    const only = (action: SchemaAction) => action === 'see_orders';
    expect(
      atTheTop('manager', only)
        .flat()
        .every((place) => place.action === 'see_orders'),
    ).toBe(true);
  });

  it('leave nothing out that is a place: each can be found by its words', () => {
    expect(new Set(PLACES.map((place) => place.words)).size).toBe(PLACES.length);
  });
});
