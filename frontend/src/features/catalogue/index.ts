export { useJobTypes, useEditions, useStarters } from './queries';
