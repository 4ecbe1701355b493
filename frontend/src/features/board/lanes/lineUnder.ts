// Whose route lies under a point of the screen, while a map is shown: a visit is dropped on a route as on a line.

type Finder = (x: number, y: number) => number | null;
let finder: Finder | null = null;

export function setLineFinder(found: Finder | null) {
  finder = found;
}

export const technicianUnder = (x: number, y: number): number | null => finder?.(x, y) ?? null;
