// What the router shows of this feature: fetched when it is first opened.

export { StockFrame } from './StockFrame';
export { PartsPage } from './parts/PartsPage';
export { PartPage } from './parts/PartPage';
export { NewPartPage } from './parts/NewPartPage';
export { PlacesPage } from './places/PlacesPage';
export { PlacePage } from './places/PlacePage';
export { TonightPage } from './tonight/TonightPage';
export { PickPage } from './tonight/PickPage';
export { PurchasesPage } from './purchases/PurchasesPage';
export { PurchasePage } from './purchases/PurchasePage';
export { RequestsPage } from './requests/RequestsPage';
export { ReturnsPage } from './returns/ReturnsPage';
export { LoansPage } from './loans/LoansPage';
