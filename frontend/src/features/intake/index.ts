export { intakeSearch, requestsSearch } from './search';
