export { BoardPage } from './board/BoardPage';
export { boardSearch } from './search';
export { PlaybooksPage } from './playbooks/PlaybooksPage';
