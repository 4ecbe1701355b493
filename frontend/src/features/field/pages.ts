// What the router shows of this feature: fetched when it is first opened.

export { DayLog } from './log/DayLog';
export { DaysOff } from './DaysOff';
export { FieldDay } from './FieldDay';
export { FieldVisit } from './FieldVisit';
export { KeepGoing } from './KeepGoing';
export { ThisPhone } from './ThisPhone';
export { WorkPage } from './work/WorkPage';
export { ToldPage } from './told/ToldPage';
