// What the router shows of this feature: fetched when it is first opened.

export { CustomersPage } from './list/CustomersPage';
export { CustomerPage } from './page/CustomerPage';
export { FilesPage } from './files/FilesPage';
export { AreasPage } from './areas/AreasPage';
