// What the router shows of this feature: fetched when it is first opened.

export { QuotesPage } from './list/QuotesPage';
export { QuotePage } from './page/QuotePage';
export { NewQuotePage } from './NewQuotePage';
export { FieldQuote } from './field/FieldQuote';
