export { FieldDay } from './FieldDay';
export { FieldVisit } from './FieldVisit';
