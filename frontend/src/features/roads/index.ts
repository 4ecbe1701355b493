export { RegionMap } from './RegionMap';
export { AreaEditor } from './AreaEditor';
export { AddressField } from './AddressField';
export { FormAddress } from './FormAddress';
export type { AreaShape, PickedPlace } from './model';
export { RouteMap } from './RouteMap';
export type { Dot, PlacedSign, RouteLine } from './model';
