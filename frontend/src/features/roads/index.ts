export { RegionMap } from './RegionMap';
export { AreaEditor } from './AreaEditor';
export type { AreaShape } from './model';
export { useAddresses } from './queries';
