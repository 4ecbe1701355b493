export { useBack, useSignOut } from './queries';
