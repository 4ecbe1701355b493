// What the router shows of this feature: fetched when it is first opened.

export { PricesPage } from './PricesPage';
