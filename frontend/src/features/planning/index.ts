export { BoardPage } from './board/BoardPage';
export { boardSearch, leftAt } from './search';
export { fetchFirst, fetchHeads } from './queries';
