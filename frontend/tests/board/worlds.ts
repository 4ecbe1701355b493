// Small boards for tests of what is drawn.

import type { SchemaVisitDetailOut } from '@/api/types';
import type { BacklogVisit, Board, BoardVisit, Finding, Lane, LaneDay } from '@/features/board/model';
import { at, FRIDAY, TODAY } from '../drawn';

const VISIT = {
  version: 3,
  number: 'W-1',
  order_id: 90,
  title: 'Door upkeep',
  job_type: 'Door upkeep',
  customer: 'Seagate Stores',
  site: 'Seagate Hall',
  address: 'Millrace Road 60, Millrace',
  area: 'Millrace',
  lon: -24.6,
  lat: 47.2,
  priority: 3,
  duration_seconds: 3600,
  needs: {},
  state: 'placed',
  movable: true,
  over: false,
  promise: null,
  earliest: null,
  due: null,
  technician_id: 1,
  technician: 'Ines Falk',
  start: at(11),
  expected_start: at(11),
  expected_end: at(12),
  pinned: false,
  crew: 1,
  mates: [],
  standby: null,
  noted: false,
  linked: false,
  takes: {},
  worth: null,
  lamp: 'dark',
  likelihood: null,
  arrived: null,
  departed: null,
  finished: null,
};

export const visit = (id: number, more: Partial<BoardVisit> = {}) =>
  ({ ...VISIT, id, number: `W-${id}`, ...more }) as unknown as BoardVisit;

export const waiting = (id: number, more: Partial<BacklogVisit> = {}) =>
  ({
    ...VISIT,
    id,
    number: `W-${id}`,
    state: 'open',
    technician_id: null,
    technician: null,
    start: null,
    reasons: ['unplaced'],
    ...more,
  }) as unknown as BacklogVisit;

export const detail = (id: number, more: Partial<SchemaVisitDetailOut> = {}) =>
  ({
    ...VISIT,
    id,
    number: `W-${id}`,
    customer_id: 5,
    customer_phone: '+351 296 555 100',
    contact_name: '',
    contact_phone: '',
    access_notes: '',
    asset: '',
    description: '',
    outcome: '',
    notes: '',
    assignments: [],
    actions: [],
    events: [],
    history: [],
    parts: 1,
    ...more,
  }) as unknown as SchemaVisitDetailOut;

export const laneDay = (more: Partial<LaneDay> = {}) =>
  ({
    day: TODAY,
    start: FRIDAY,
    end: at(24),
    shift: { start: at(8), end: at(16), gap: null, on_call: null },
    holiday: '',
    absences: [],
    reminders: [],
    timetable: { stretches: [], broken: [], overtime: null, drive_seconds: 0, work_seconds: 0, ends: null },
    workload: { working: 8 * 3600, left: 8 * 3600, share: 0, gaps: [] },
    ...more,
  }) as unknown as LaneDay;

export const lane = (technician_id: number, name: string, more: Partial<Lane> = {}) =>
  ({
    technician_id,
    name,
    depot: 'Northlock',
    phone: '+351 296 700 100',
    email: 'someone@example.org',
    skills: { 'Door drives': 3 },
    areas: ['Millrace'],
    certificates: [],
    days: [laneDay()],
    ...more,
  }) as unknown as Lane;

export const INES = lane(1, 'Ines Falk');
export const IVOR = lane(2, 'Ivor Larkin');

/** A limit that does not hold at a visit, or on a technician's day. */
export const finding = (
  visit_id: number | null,
  limit = 'promise',
  more: Partial<Finding> = {},
): Finding => ({
  key: `${limit} ${visit_id ?? `${more.technician_id} ${TODAY}`}`,
  limit: limit as Finding['limit'],
  visit_id,
  technician_id: 1,
  day: TODAY,
  sentence: '2 h after the promise 09:00–11:00',
  why: { code: 'after_promise', given: {} },
  ...more,
});

export const board = (visits: BoardVisit[] = [], lanes: Lane[] = [INES, IVOR], findings: Finding[] = []) =>
  ({
    day: TODAY,
    days: [{ day: TODAY, start: FRIDAY, end: at(24) }],
    start: FRIDAY,
    end: at(24),
    now: at(10, 40),
    lanes,
    visits,
    findings,
    chunks: [],
  }) as unknown as Board;

/** What placing says afterwards. */
export const placed = (id: number, reasons: { weight: string; sentence: string }[] = [], more = {}) => ({
  visit: { ...VISIT, id, number: `W-${id}`, version: 4, ...more },
  verdict: {
    allowed: true,
    reasons: reasons.map((row) => ({ limit: null, ...row })),
    timetable: laneDay().timetable,
    extra_drive_seconds: 0,
  },
});
