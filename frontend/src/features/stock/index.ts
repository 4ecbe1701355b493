export { stockKey, useVan } from './queries';
export { Van } from './Van';
