export { intakeSearch, oneOffSearch, requestsSearch } from './search';
export { ForWhom, GivenCustomer, type Whom } from './ForWhom';
export { JobChoice, SiteChoice } from './Choices';
