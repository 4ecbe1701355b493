export { BoardPage } from './board/BoardPage';
export { boardSearch } from './search';
