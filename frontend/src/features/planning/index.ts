export { BoardPage } from './board/BoardPage';
export { boardSearch, leftAt } from './search';
export { fetchAhead } from './queries';
