export { OpenWorkPage } from './OpenWorkPage';
