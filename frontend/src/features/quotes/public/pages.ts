export { PublicQuote } from './PublicQuote';
