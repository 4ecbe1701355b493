/** Seconds as hours, to a tenth. */
export const hours = (seconds: number) => (seconds / 3600).toFixed(1);
