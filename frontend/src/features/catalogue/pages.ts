// What the router shows of this feature: fetched when it is first opened.

export { JobTypesPage } from './types/JobTypesPage';
