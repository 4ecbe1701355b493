export { BoardPage } from './board/BoardPage';
export { boardSearch, leftAt } from './search';
export { PlaybooksPage } from './playbooks/PlaybooksPage';
