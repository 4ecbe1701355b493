export { DayLogs } from './DayLogs';
