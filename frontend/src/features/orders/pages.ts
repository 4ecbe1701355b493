// What the router shows of this feature: fetched when it is first opened.

export { OrdersPage } from './list/OrdersPage';
export { OrderPage } from './page/OrderPage';
