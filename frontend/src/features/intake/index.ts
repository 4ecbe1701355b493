export { IntakePage } from './IntakePage';
