export { useCurrency, useItems, usePriceLists, useTaxCodes, useUnits } from './queries';
export { LinesEditor } from './lines/LinesEditor';
export { WholeDiscounts } from './lines/DiscountFields';
export { SumsBox, TotalsTable } from './lines/SumsBox';
export { useFigures, useReach } from './lines/figures';
export {
  isWhole,
  reached,
  setIn,
  typedDiscount,
  typedLine,
  type TypedDiscount,
  type TypedLine,
  type TypedSet,
} from './lines/model';
export { CustomerTerms } from './CustomerTerms';
export { NewQuoteLink } from './NewQuoteLink';
export { QuotesOf } from './QuotesOf';
