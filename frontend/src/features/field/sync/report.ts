import type { SchemaReportOut } from '@/api/types';
import { asked, type Question } from '@/shared/questions';
import type { Kept } from './deeds';
import { APPLY_ENTRY, isSaid, type EntryBodies } from './entries';
import { standings, type Facts, type Standing } from './steps';

export type Report = SchemaReportOut;
export type Shown = Report['pictures'][number];
type Reader = 'self' | 'office' | 'customer';

/** What each kind of deed that goes into a report says. */
export interface Bodies extends EntryBodies {
  look: Record<string, never>;
  task: { words: string; done: boolean };
  answer: { key: string; value: string | number | boolean | null; sure?: boolean };
  note: { reader: Reader; text: string };
  picture: {
    id: string;
    kind: 'photo' | 'signature';
    size: number;
    media_type: string;
    caption?: string;
    pair?: '' | 'before' | 'after';
    question?: string;
    /** The photo that this one was drawn on. */
    original?: string | null;
  };
  'picture out': { id: string };
  acceptance: {
    ended: 'signed' | 'refused' | 'absent';
    name?: string;
    rating?: number | null;
    words?: string;
    signature?: string | null;
    shown?: string[];
  };
  'send report': { addresses: string[] };
}
export type ReportKind = keyof Bodies;

interface Done {
  at: number;
  by: string;
}
type Apply<K extends ReportKind> = (report: Report, body: Bodies[K], done: Done) => Report;

const without = <T extends { [key in K]: unknown }, K extends string>(rows: T[], key: K, value: unknown) =>
  rows.filter((row) => row[key] !== value);

/** What a deed makes of a report: the same as the server's commands make of it. */
const APPLY: { [K in ReportKind]: Apply<K> } = {
  look: (report) => ({ ...report, looked: true }),
  task: (report, { words, done }, { at, by }) => ({
    ...report,
    tasks: report.tasks.map((task) => {
      if (task.words !== words) return task;
      if (!done) return { words, at: null, by: '' };
      return task.at === null ? { words, at, by } : task;
    }),
  }),
  answer: (report, { key, value: typed }, done) => {
    const value = typeof typed === 'string' ? typed.trim() : typed;
    const others = without(report.answers, 'key', key);
    return {
      ...report,
      answers: value === null || value === '' ? others : [...others, { key, value, ...done }],
    };
  },
  note: (report, { reader, text }, done) => {
    const others = report.notes.filter((note) => note.reader !== reader || note.by !== done.by);
    return { ...report, notes: text.trim() ? [...others, { reader, text: text.trim(), ...done }] : others };
  },
  picture: (
    report,
    { id, kind, size, caption: typed = '', pair = '', question = '', original = null },
    done,
  ) => {
    const caption = typed.trim();
    const known = report.pictures.find((picture) => picture.id === id);
    const told = { id, kind, size, caption, pair, question, original, here: known?.here ?? false };
    const row = known ? { ...known, caption, pair } : { ...told, ...done };
    return {
      ...report,
      pictures: known
        ? report.pictures.map((picture) => (picture.id === id ? row : picture))
        : [...report.pictures, row],
    };
  },
  'picture out': (report, { id }) => ({ ...report, pictures: without(report.pictures, 'id', id) }),
  acceptance: (report, { ended, name = '', rating = null, words = '', signature = null }, done) => ({
    ...report,
    acceptance: { ended, name: name.trim(), rating, words: words.trim(), signature, ...done },
  }),
  // Stands with the visit, beside its report.
  'send report': (report) => report,
  ...APPLY_ENTRY,
};

/** Photos as they are shown: of one that was drawn on, the drawing. */
export function shownPhotos(pictures: readonly Shown[]): Shown[] {
  const under = new Set(pictures.map(({ original }) => original));
  return pictures.filter(({ id, kind, question }) => kind === 'photo' && !question && !under.has(id));
}

export const isOfReport = (kind: string): kind is ReportKind => kind in APPLY;

/** A report after what was recorded on this phone and is not in it yet. */
export function withDone(report: Report, since: readonly Kept[], by: string): Report {
  return since.reduce((found, { deed }) => {
    if (!isOfReport(deed.kind)) return found;
    const apply = APPLY[deed.kind] as Apply<ReportKind>;
    return apply(found, deed.body as Bodies[ReportKind], { at: Math.floor(deed.happenedAt / 1000), by });
  }, report);
}

export const answersOf = (report: Report): Record<string, unknown> =>
  Object.fromEntries(report.answers.map(({ key, value }) => [key, value]));

/** What is known of the work, to see how its steps stand. */
export function factsOf(report: Report, state: string): Facts {
  const answers = answersOf(report);
  const questions = report.questions as unknown as Question[];
  const must = asked(questions, answers).filter(
    ({ key, required }) => (required === 'to create' || required === 'to close') && !(key in answers),
  );
  return {
    state,
    tasks: report.tasks.length,
    questions: questions.length,
    tasks_open: report.tasks.filter(({ at }) => at === null).map(({ words }) => words),
    questions_open: must.map(({ label }) => label),
    answered: report.answers.length,
    photos: shownPhotos(report.pictures).length,
    looked: report.looked,
    noted: report.notes.length > 0,
    accepted: report.acceptance !== null,
    ...isSaid(report.entries),
  };
}

export const standingsOf = (report: Report, state: string): Standing[] =>
  standings(report.steps, factsOf(report, state));
