export { useBack, useSignOut } from './queries';
export { signInSearch } from './signing_in/search';
