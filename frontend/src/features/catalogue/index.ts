export { useJobTypes, useEditions } from './queries';
export { JobTypesPage } from './types/JobTypesPage';
