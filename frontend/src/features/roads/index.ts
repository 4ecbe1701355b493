export { RegionMap } from './RegionMap';
export { useAddresses } from './queries';
