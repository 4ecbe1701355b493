export { PartsField } from './PartsField';
export { PartChoice } from './PartChoice';
export { PlaceChoice } from './PlaceChoice';
export { useKeyedParts } from './commands';
export {
  scan,
  stockKey,
  useBook,
  useChosenPart,
  useCountAt,
  useFitted,
  useMergePart,
  useMovements,
  useOpenPlaces,
  usePart,
  usePartName,
  useParts,
  useSetLevel,
  useSetPhoto,
  useStockChange,
  useStockMatters,
  useStockPlaces,
  useSuppliers,
  useVan,
  useWhereabouts,
} from './queries';
export { Van } from './Van';
export { FittedIn } from './parts/FittedIn';
export { PartForm } from './parts/PartForm';
export { Movements } from './parts/Movements';
