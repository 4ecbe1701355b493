export { WriteAbout } from './WriteAbout';
