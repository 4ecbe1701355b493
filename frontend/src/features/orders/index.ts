export { ordersSearch } from './list/search';
export { Views } from './list/Views';
export { OrderBeside } from './page/OrderBeside';
export { WhoGoes } from './WhoGoes';
export { RemindersOfDays } from './reminders/RemindersOfDays';
export { OfficeReminders } from './reminders/OfficeReminders';
