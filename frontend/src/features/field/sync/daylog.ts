import type { SchemaFieldLogOut } from '@/api/types';
import { asked, type Question } from '@/shared/questions';
import type { DayFacts } from './days';
import type { Kept } from './deeds';

export type DayLog = SchemaFieldLogOut;

/** What each kind of deed of a day says. All of them say which day. */
export interface DayBodies {
  'clock on': { day: string };
  'clock off': { day: string };
  pause: { day: string; begins: boolean };
  vehicle: {
    day: string;
    vehicle_id?: number;
    name?: string;
    odometer_began?: number;
    odometer_ended?: number;
    checks?: Record<string, unknown>;
  };
  fuel: { day: string; id: string; millilitres: number; amount: number; size: number };
  'fuel out': { day: string; id: string };
  'typed time': { day: string; which: 'began' | 'ended'; at: number };
  explain: { day: string; key: string; words: string };
}
export type DayKind = keyof DayBodies;
type Apply<K extends DayKind> = (log: DayLog, body: DayBodies[K], at: number) => DayLog;

/** What a deed makes of a day: the same as the server's commands make of it. */
const APPLY: { [K in DayKind]: Apply<K> } = {
  'clock on': (log, _body, at) =>
    log.began !== null && log.began <= at ? log : { ...log, began: at, began_typed: false },
  'clock off': (log, _body, at) => ({
    ...log,
    ended: at,
    ended_typed: false,
    pauses: log.pauses.map((row) => (row.until === null && row.since <= at ? { ...row, until: at } : row)),
  }),
  pause: (log, { begins }, at) => {
    const open = log.pauses.some(({ until }) => until === null);
    if (begins) return open ? log : { ...log, pauses: [...log.pauses, { since: at, until: null }] };
    const ended = ({ since, until }: DayLog['pauses'][number]) => ({
      since,
      until: until ?? Math.max(at, since),
    });
    return { ...log, pauses: log.pauses.map(ended) };
  },
  vehicle: (log, { vehicle_id, name, odometer_began, odometer_ended, checks }) => ({
    ...log,
    ...(vehicle_id === undefined ? {} : { vehicle_id, vehicle: name ?? '', drives: true }),
    odometer_began: odometer_began ?? log.odometer_began,
    odometer_ended: odometer_ended ?? log.odometer_ended,
    checks: checks ?? log.checks,
  }),
  fuel: (log, { id, millilitres, amount, size }, at) => ({
    ...log,
    fuel: [...log.fuel.filter((row) => row.id !== id), { id, at, millilitres, amount, size, here: false }],
  }),
  'fuel out': (log, { id }) => ({ ...log, fuel: log.fuel.filter((row) => row.id !== id) }),
  'typed time': (log, { which, at: said }) =>
    which === 'began'
      ? { ...log, began: said, began_typed: true }
      : { ...log, ended: said, ended_typed: true },
  explain: (log, { key, words }) => ({
    ...log,
    explained: [...log.explained.filter((row) => row.key !== key), { key, words: words.trim() }],
  }),
};

const STAMPS = { depart: 'departed', arrive: 'arrived', finish: 'finished' } as const;
const counts = ({ fate }: Kept) => fate === 'unsent' || fate === 'applied';

/** A day after what was recorded on this phone and is not in it yet. */
export function withDay(log: DayLog, kept: readonly Kept[]): DayLog {
  const known = new Set(log.known);
  return kept.filter(counts).reduce((found, { deed }) => {
    const at = Math.floor(deed.happenedAt / 1000);
    if (deed.visitId !== null)
      return deed.kind === 'step' ? stamped(found, deed.visitId, deed.body, at) : found;
    const body = deed.body as DayBodies[DayKind];
    if (known.has(deed.id) || body.day !== log.day || !(deed.kind in APPLY)) return found;
    return (APPLY[deed.kind as DayKind] as Apply<DayKind>)(found, body, at);
  }, log);
}

/** What was stamped at a visit of the day, unless the office knows it already. */
function stamped(log: DayLog, visitId: number, body: unknown, at: number): DayLog {
  const which = STAMPS[(body as { step: keyof typeof STAMPS }).step] as 'departed' | undefined;
  if (!which) return log;
  return {
    ...log,
    visits: log.visits.map((row) => {
      if (row.id !== visitId) return row;
      const next = { ...row, [which]: row[which] ?? at };
      return { ...next, over: next.over || next.finished !== null };
    }),
  };
}

export function factsOfDay(log: DayLog): DayFacts {
  const questions = asked(log.questions as unknown as Question[], log.checks);
  const open = questions.filter(({ key, required }) => required !== undefined && !(key in log.checks));
  return {
    began: log.began,
    ended: log.ended,
    pauses: log.pauses,
    odometer_began: log.odometer_began,
    odometer_ended: log.odometer_ended,
    drives: log.drives,
    checks_open: open.filter(({ required }) => required === 'to close' || required === 'to create').length,
    fuel_without_receipt: log.fuel.filter(({ size }) => size === 0).length,
    visits: log.visits,
  };
}
