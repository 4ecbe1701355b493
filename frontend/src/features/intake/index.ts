export { IntakePage } from './IntakePage';
export { intakeSearch } from './search';
export { RequestsPage, requestsSearch } from './requests/RequestsPage';
export { PublicForm } from './PublicForm';
export { CapacityPage } from './capacity/CapacityPage';
