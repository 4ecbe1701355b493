export { ANY_TIME, shownOffers, type Window, type Wish } from './model';
export { OfferList } from './OfferList';
export { useExpectOffers, useOffers } from './queries';
export { UrgentFirst } from './UrgentFirst';
