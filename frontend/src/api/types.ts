export type * from './generated/schema';
