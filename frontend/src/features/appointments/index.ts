export { ANY_TIME, shownOffers, wishIn, type Window, type Wish } from './model';
export { OfferList } from './OfferList';
export { OfferTime } from './OfferTime';
export { useExpectOffers, useOffers } from './queries';
export { UrgentFirst } from './UrgentFirst';
