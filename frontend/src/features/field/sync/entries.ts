import type { SchemaReportOut } from '@/api/types';

type Report = SchemaReportOut;
type Entries = Report['entries'];
export type UsedPart = Entries['used'][number];
export type Presence = Entries['presences'][number];

/** What each kind of deed says that tells what a visit took. Names are carried for those who read; keys count. */
export interface EntryBodies {
  part: {
    id: string;
    code: string;
    name: string;
    quantity: number;
    serials?: string[];
    batch?: string;
    place_id?: number | null;
    elsewhere?: string;
  };
  'part out': { id: string };
  'removed part': {
    id: string;
    code?: string;
    words?: string;
    quantity?: number;
    serial?: string;
    what: 'defective' | 'kept' | 'thrown away';
    because?: string;
  };
  'part asked': {
    code: string;
    name: string;
    quantity: number;
    needed_by: number | null;
    must: boolean;
    substitute_allowed: boolean;
    words: string;
  };
  time: { technician_id: number; sort: 'travel' | 'work'; minutes: number | null; reason?: string };
  charge: { id: string; item?: string; words: string; quantity: number };
  'charge out': { id: string };
  mileage: { metres: number | null };
  'nothing more': { of: 'parts' | 'time' | 'charges'; said: boolean };
}
export type EntryKind = keyof EntryBodies;

interface Done {
  at: number;
  by: string;
}
type Apply<K extends EntryKind> = (entries: Entries, body: EntryBodies[K], done: Done) => Entries;

/** In the place of the row of that name, else behind the others. */
function put<T extends { id: string }>(rows: T[], row: T): T[] {
  return rows.some(({ id }) => id === row.id)
    ? rows.map((each) => (each.id === row.id ? row : each))
    : [...rows, row];
}
const but = <T extends { id: string }>(rows: T[], gone: string) => rows.filter(({ id }) => id !== gone);

const APPLY: { [K in EntryKind]: Apply<K> } = {
  part: (entries, { serials = [], batch = '', place_id = null, elsewhere = '', ...said }, done) => {
    const unit = entries.planned.find(({ code }) => code === said.code)?.unit ?? '';
    const source = elsewhere.trim();
    const row = {
      ...said,
      serials,
      batch,
      place_id,
      elsewhere: source,
      source,
      unit,
      booked: false,
      ...done,
    };
    return { ...entries, used: put(entries.used, row) };
  },
  'part out': (entries, { id }) => ({ ...entries, used: but(entries.used, id) }),
  'removed part': (entries, body, done) => {
    if (entries.removed.some(({ id }) => id === body.id)) return entries;
    const { id, code = '', words = '', quantity = 1, serial = '', what, because = '' } = body;
    const row = { id, code, name: words.trim(), quantity, serial, what, because: because.trim(), ...done };
    return { ...entries, removed: [...entries.removed, row] };
  },
  // Stands with the visit, beside its report: see `withAsked`.
  'part asked': (entries) => entries,
  time: (entries, { technician_id, sort, minutes, reason = '' }, done) => {
    const others = entries.times.filter((row) => row.technician_id !== technician_id || row.sort !== sort);
    const row = { technician_id, sort, minutes: minutes ?? 0, reason: reason.trim(), ...done };
    return { ...entries, times: minutes === null ? others : [...others, row] };
  },
  charge: (entries, { id, item = '', words, quantity }, done) => ({
    ...entries,
    charges: put(entries.charges, { id, item, words: words.trim(), quantity, ...done }),
  }),
  'charge out': (entries, { id }) => ({ ...entries, charges: but(entries.charges, id) }),
  mileage: (entries, { metres }, done) => {
    const others = entries.mileages.filter(({ by }) => by !== done.by);
    return { ...entries, mileages: metres === null ? others : [...others, { metres, ...done }] };
  },
  'nothing more': (entries, { of, said }) => {
    const others = entries.nothing_more.filter((each) => each !== of);
    return { ...entries, nothing_more: said ? [...others, of] : others };
  },
};

/** Each kind's doing, as it changes a report. */
export const APPLY_ENTRY = Object.fromEntries(
  Object.entries(APPLY).map(([kind, apply]) => [
    kind,
    (report: Report, body: never, done: Done): Report => ({
      ...report,
      entries: (apply as Apply<EntryKind>)(report.entries, body, done),
    }),
  ]),
) as { [K in EntryKind]: (report: Report, body: EntryBodies[K], done: Done) => Report };

const STAMP: Record<string, 'departed' | 'arrived' | 'finished'> = {
  depart: 'departed',
  arrive: 'arrived',
  finish: 'finished',
};

/** Who was there when, after a step that somebody of the crew took. Whoever leads stands first. */
export function steppedBy(presences: readonly Presence[], step: string, { at, by }: Done): Presence[] {
  const leads = presences[0]?.name === by;
  return presences
    .map((row) => {
      const which = STAMP[step];
      if (row.name === by && which) return { ...row, [which]: at };
      if (!leads) return row;
      // The work is over: whoever is still there leaves with it.
      if (step === 'finish' && row.arrived !== null && row.finished === null) return { ...row, finished: at };
      return row;
    })
    .map((row) => (leads ? { ...row, held: heldAfter(row.held, step, at) } : row));
}

function heldAfter(held: Presence['held'], step: string, at: number): Presence['held'] {
  const last = held.at(-1);
  const open = last !== undefined && last.until === null;
  if (step === 'hold' && !open) return [...held, { since: at, until: null }];
  if ((step === 'resume' || step === 'finish') && open)
    return [...held.slice(0, -1), { since: last.since, until: at }];
  return held;
}

/** Planned parts of which nobody has said whether they were used, by name. */
export const partsOpen = ({ planned, used }: Entries): string[] =>
  planned.filter(({ code }) => !used.some((row) => row.code === code)).map(({ name }) => name);

export const isSaid = (entries: Entries) => ({
  parts_open: partsOpen(entries),
  parts_said: entries.used.length > 0 || entries.nothing_more.includes('parts'),
  times_said: entries.times.length > 0 || entries.nothing_more.includes('time'),
  charges_said:
    entries.charges.length + entries.mileages.length > 0 || entries.nothing_more.includes('charges'),
});
