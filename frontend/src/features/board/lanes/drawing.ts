import type { Label } from '../hues';
import type { BoardVisit } from '../model';

/** How lanes are drawn: what is written on visits, their hue, and what the heads say. */
export interface Drawing {
  label: Label;
  hueOf: (visit: BoardVisit) => string | undefined;
  /** Whether the heads of lanes say skills and areas. */
  wide: boolean;
  /** Whether the one who looks may draw a visit longer. */
  stretches: boolean;
}
