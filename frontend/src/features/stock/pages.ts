// What the router shows of this feature: fetched when it is first opened.

export { CountsPage } from './counts/CountsPage';
export { CountPage } from './counts/CountPage';
export { SuppliersPage } from './suppliers/SuppliersPage';
