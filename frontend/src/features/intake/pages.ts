// What the router shows of this feature: fetched when it is first opened.

export { IntakePage } from './IntakePage';
export { OneOffPage } from './one_off/OneOffPage';
export { RequestsPage } from './requests/RequestsPage';
export { PublicForm } from './PublicForm';
