export {
  keys as schedulingKeys,
  playbooksQuery,
  refreshSchedule,
  runQuery,
  scheduleKey,
  visitKey,
} from './queries';
export { useStartRun } from './runs/commands';
export { ghostsOf, toursOf, type Ghost, type Ghosts } from './runs/ghosts';
export { Planner } from './runs/Planner';
export { useChanges, useRedo, useUndo } from './undo';
export { remember, SCOPE, versionOf } from './versions';
export type { Shown } from './model';
