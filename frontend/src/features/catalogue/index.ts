export { useJobTypes, useEditions } from './queries';
