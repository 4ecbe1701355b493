export { intakeSearch, requestsSearch } from './search';
export { CallerSearch } from './CallerSearch';
export { NewCustomer } from './NewCustomer';
