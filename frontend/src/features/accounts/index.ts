export { useSignOut } from './queries';
