export { useCustomerSearch, useCustomer, useTwins } from './queries';
export { useAddCustomer, useAddSite, useAddAsset, NEW_CUSTOMER } from './commands';
export { CustomerPicker } from './CustomerPicker';
export { CustomersPage } from './list/CustomersPage';
export { CustomerPage } from './page/CustomerPage';
export { Twins } from './Twins';
export { FilesPage } from './files/FilesPage';
export { AreasPage } from './areas/AreasPage';
