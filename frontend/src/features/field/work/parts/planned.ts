import { v5 } from 'uuid';

const PLANNED = '0f3b9a52-6a2d-4b0e-9c7e-2f1d1f0a7c11';

/**
 * The name of the line of a planned part: the same on every phone and at the server (apps/reports/commands/parts.py), so
 * that two who say whether it was used say it of one line.
 */
export const lineOf = (visitId: number, code: string) => v5(`${visitId} ${code}`, PLANNED);
