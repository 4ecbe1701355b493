export { BoardPage } from './board/BoardPage';
export { boardSearch, leftAt, saysNothing } from './search';
export { fetchFirst, fetchHeads } from './queries';
