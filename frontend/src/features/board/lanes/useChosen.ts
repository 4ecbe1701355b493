import { useMemo, useState } from 'react';
import type { AnyVisit } from '../model';

/** The chosen visits, also those of a day that is not shown any more: a choice is made over several days. */
export function useChosen(
  open: readonly AnyVisit[] | undefined,
  placed: readonly AnyVisit[],
  chosen: ReadonlySet<number>,
): AnyVisit[] {
  const here = useMemo(() => {
    const known = new Map<number, AnyVisit>();
    for (const visit of [...(open ?? []), ...placed]) if (chosen.has(visit.id)) known.set(visit.id, visit);
    return known;
  }, [open, placed, chosen]);
  // What was seen last of each, carried along from what was shown to what is shown.
  const [kept, setKept] = useState({ here, all: here });
  if (kept.here !== here) {
    const all = new Map([...kept.all, ...here].filter(([id]) => chosen.has(id)));
    setKept({ here, all });
  }
  const { all } = kept;
  return useMemo(
    () =>
      [...chosen].flatMap((id) => {
        const visit = here.get(id) ?? all.get(id);
        return visit ? [visit] : [];
      }),
    [here, all, chosen],
  );
}
