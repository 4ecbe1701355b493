export { OpenWorkPage } from './openwork/OpenWorkPage';
export { OrdersPage } from './list/OrdersPage';
export { ordersSearch } from './list/search';
export { OrderPage } from './page/OrderPage';
export { Views } from './list/Views';
export { OrderBeside } from './page/OrderBeside';
