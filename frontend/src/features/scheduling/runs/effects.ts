// What a proposal comes to, in what a dispatcher counts.

import type { SchemaMeasuresOut } from '@/api/types';
import { length } from '@/shared/time';

export interface EffectRow {
  words: string;
  before: string;
  after: string;
  /** Fewer is better in all of them. */
  better: boolean | null;
}

type Measure = keyof SchemaMeasuresOut;

const WORDS: [Measure, string, (value: number) => string][] = [
  ['left', 'Visits without a place', String],
  ['promised_left', 'of them promised', String],
  ['late', 'Promises not kept', String],
  ['drive_seconds', 'Driving', length],
  ['drive_metres', 'Kilometres', (metres) => String(Math.round(metres / 1000))],
  ['overtime_seconds', 'Overtime', length],
];

/** A row for each measure that is not nothing before and after. */
export function effectRows(before: SchemaMeasuresOut, after: SchemaMeasuresOut): EffectRow[] {
  return WORDS.filter(([name]) => before[name] || after[name]).map(([name, words, said]) => {
    const [old, new_] = [said(before[name]), said(after[name])];
    return { words, before: old, after: new_, better: old === new_ ? null : after[name] < before[name] };
  });
}
