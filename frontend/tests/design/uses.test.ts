import { expect, it } from 'vitest';
import { counted } from '@/design/Uses';

it.each([
  [1, 'sites', '1 site'],
  [2, 'sites', '2 sites'],
  [1, 'wishes', '1 wish'],
  [1, 'work orders', '1 work order'],
  [1, 'saved views', '1 saved view'],
  [1200, 'requests', '1,200 requests'],
])('%i %s', (count, what, words) => expect(counted(count, what)).toBe(words));
