export { PartsField } from './PartsField';
export { useKeyedParts } from './commands';
export { stockKey, usePartName, useVan } from './queries';
export { Van } from './Van';
