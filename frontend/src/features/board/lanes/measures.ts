/** Pixels of the board. */
/** Width of the heads of lanes: a name and how full the days are; or with skills and areas beside it. */
export const HEAD_WIDTHS = { narrow: 176, wide: 316 } as const;
export type Heads = keyof typeof HEAD_WIDTHS;
/** On a screen from here on there is room for wide heads. */
export const ROOM_FOR_WIDE = 1500;
export const LANE_HEIGHT = 48;

/** Narrower, the right edge of a visit does not stretch it: one would miss the visit itself. */
export const LEAST_STRETCHABLE = 24;
