export { BoardPage } from './lanes/BoardPage';
export { boardSearch, leftAt, saysNothing } from './search';
export { fetchFirst, fetchHeads } from './queries';
export { FoundAnywhere } from './lanes/FoundAnywhere';
