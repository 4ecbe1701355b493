// Everybody's rounds as lines of the map, and the place of each visit in its technician's day.

import type { RouteLine } from '@/features/roads';
import type { Board, BoardVisit } from '../model';
import { toursOf, type Ghosts } from '@/features/scheduling';

type Point = [number, number];

/** A technician's drives of a day, each along its roads. */
export interface Round {
  technician_id: number;
  legs: { seconds: number; points: number[][] }[];
}

/** So many technicians' rounds are fetched at once: the first are drawn while the others are on their way. */
export const ROUNDS_AT_ONCE = 25;

/** Ids in the groups in which their rounds are asked for. */
export function inGroups(ids: number[]): number[][] {
  const groups: number[][] = [];
  for (let from = 0; from < ids.length; from += ROUNDS_AT_ONCE)
    groups.push(ids.slice(from, from + ROUNDS_AT_ONCE));
  return groups;
}

/** Each drive along its roads with its minutes; the round of the one looked at is strong. */
export function roundLines(rounds: Round[], who: number | null): RouteLine[] {
  return rounds.flatMap((round) =>
    round.legs
      .filter((leg) => leg.points.length > 1)
      .map((leg) => ({
        id: round.technician_id,
        points: leg.points as Point[],
        strong: round.technician_id === who,
        label: String(Math.round(leg.seconds / 60)),
      })),
  );
}

type Look = 'before' | 'after';

/** A round that a proposal changes, as it is or as it would be: its places, and the moment it begins at. */
export interface Tour {
  id: number;
  look: Look;
  at: number;
  points: Point[];
}

/** While a proposal is read, only the rounds that it changes are drawn. */
export function proposedTours(
  ghosts: Ghosts,
  board: Board,
  visitsOf: Map<number, BoardVisit[]>,
  only: number | null,
): Tour[] {
  return toursOf(ghosts, visitsOf, board)
    .filter(({ technicianId }) => only === null || technicianId === only)
    .flatMap(({ technicianId: id, before, after }): Tour[] => [
      { id, look: 'before', at: board.start, points: before },
      { id, look: 'after', at: board.start, points: after },
    ])
    .filter((tour) => tour.points.length > 1);
}

/** Along the roads where they are known already, else straight. */
export const tourLines = (tours: Tour[], roads: { points: number[][] }[] | undefined): RouteLine[] =>
  tours.map(({ id, look, points }, index) => ({
    id,
    look,
    strong: false,
    points: (roads?.[index]?.points as Point[] | undefined) ?? points,
  }));

/** Which one of its technician's day a visit is, from 1. Of a crew's visit, in the day of whoever leads. */
export function placesInDay(
  visitsOf: Map<number, BoardVisit[]>,
  within: { start: number; end: number },
): Map<number, number> {
  const places = new Map<number, number>();
  for (const [technicianId, visits] of visitsOf)
    visits
      .filter((visit) => visit.start! >= within.start && visit.start! < within.end)
      .forEach((visit, index) => {
        if (visit.technician_id === technicianId) places.set(visit.id, index + 1);
      });
  return places;
}

/** Minutes of driving of a round, and in how many drives. */
export function driving(rounds: Round[], who: number): { minutes: number; drives: number } | null {
  const legs = rounds.find((round) => round.technician_id === who)?.legs;
  if (!legs) return null;
  return { minutes: Math.round(legs.reduce((sum, leg) => sum + leg.seconds, 0) / 60), drives: legs.length };
}
