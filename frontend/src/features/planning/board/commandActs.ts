import type { BoardSearch } from '../search';
import type { CommandAct } from './CommandField';

interface Setting {
  day: string;
  canPlan: boolean;
  change: (changes: Partial<BoardSearch>) => void;
  onToday: () => void;
  onGap: () => void;
  onKey: () => void;
  onCrews: () => void;
  onUndo: () => void;
  onRedo: () => void;
  onSend: () => void;
  onLock: (pinned: boolean) => void;
}

/** Whatever can be done on the board, for the command field. */
export function commandActs({ day, canPlan, change, ...on }: Setting): CommandAct[] {
  const print = (path: string) => () => void window.open(`/api/planning/${path}?day=${day}`, '_blank');
  const acts: CommandAct[] = [
    { words: 'Today', keys: 'T', run: on.onToday },
    { words: 'Show one day', run: () => change({ span: undefined }) },
    { words: 'Show a week', run: () => change({ span: 7 }) },
    { words: 'Show two weeks', run: () => change({ span: 14 }) },
    { words: 'Show five weeks', run: () => change({ view: 'month' }) },
    { words: 'Show lanes', run: () => change({ view: undefined }) },
    { words: 'Show lanes and map', run: () => change({ view: 'both' }) },
    { words: 'Show the map', run: () => change({ view: 'map' }) },
    { words: 'Show a list', run: () => change({ view: 'list' }) },
    { words: 'Group by crew', run: () => change({ group: 'crew' }) },
    { words: 'Group by depot', run: () => change({ group: 'depot' }) },
    { words: 'Group by area', run: () => change({ group: 'area' }) },
    { words: 'No groups', run: () => change({ group: undefined }) },
    { words: 'Next gap to fill', keys: 'G', run: on.onGap },
    { words: 'Print the route sheets of this day', run: print('route-sheet') },
    { words: 'Print the work orders of this day', run: print('work-orders') },
    { words: 'Key to the signs and keys', keys: '?', run: on.onKey },
  ];
  if (!canPlan) return acts;
  return [
    ...acts,
    { words: 'Undo', keys: 'Ctrl Z', run: on.onUndo },
    { words: 'Redo', keys: 'Ctrl Shift Z', run: on.onRedo },
    {
      words: 'Ask the planner',
      run: () => change({ run: 0, visit: undefined, gap: undefined, person: undefined }),
    },
    { words: 'Lock everything that is shown', run: () => on.onLock(true) },
    { words: 'Unlock everything that is shown', run: () => on.onLock(false) },
    { words: 'Crews', run: on.onCrews },
    { words: 'Send everything that is shown', run: on.onSend },
  ];
}
