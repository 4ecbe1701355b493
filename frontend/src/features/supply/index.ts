export { stockSearch, tonightSearch } from './search';
