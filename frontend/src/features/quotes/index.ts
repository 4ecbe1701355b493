export { newQuoteSearch, quotesSearch } from './list/search';
export { QuotesAtVisit } from './field/QuotesAtVisit';
