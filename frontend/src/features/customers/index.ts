export { useCustomerSearch, useCustomer, useSimilar } from './queries';
export { useAddCustomer, useAddSite, useAddAsset } from './commands';
