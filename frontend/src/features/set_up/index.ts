export { peopleSearch } from './search';
