// What the router shows of this feature: fetched when it is first opened.

export { OpenWorkPage } from './openwork/OpenWorkPage';
export { OrdersPage } from './list/OrdersPage';
export { OrderPage } from './page/OrderPage';
