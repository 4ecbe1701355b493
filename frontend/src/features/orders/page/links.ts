export type LinkKind = 'after' | 'together' | 'same_technician';
export const KINDS: LinkKind[] = ['after', 'together', 'same_technician'];

const WORDS: Record<LinkKind, string> = {
  after: 'comes after',
  together: 'starts together with',
  same_technician: 'is done by the same technician as',
};
export const kindWords = (kind: LinkKind) => WORDS[kind];

export interface Tie {
  id: number;
  kind: LinkKind;
  first_id: number;
  second_id: number;
}

/**
 * Columns of a diagram: a visit stands to the right of everything it comes after; what starts together shares a column.
 * Links that form no ring are taken as given: the server lets no others in.
 */
export function columnsOf(ids: number[], links: Tie[]): Map<number, number> {
  const column = new Map(ids.map((id) => [id, 0]));
  for (let round = 0; round < ids.length; round++) {
    for (const link of links) {
      const one = column.get(link.first_id) ?? 0;
      const two = column.get(link.second_id) ?? 0;
      if (link.kind === 'after' && two <= one) column.set(link.second_id, one + 1);
      if (link.kind === 'together' && one !== two) {
        column.set(link.first_id, Math.max(one, two));
        column.set(link.second_id, Math.max(one, two));
      }
    }
  }
  return column;
}
