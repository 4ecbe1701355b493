/** Pixels of the board. */
export const LABEL_WIDTH = 176;
export const LANE_HEIGHT = 48;
