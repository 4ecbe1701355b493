export { useCustomerSearch, useCustomer, useLatestCustomers, useSitesOnMap, useTwins } from './queries';
export { useAddCustomer, useAddSite, useAddAsset, NEW_CUSTOMER } from './commands';
export { CustomerPicker } from './CustomerPicker';
export { Twins } from './Twins';
