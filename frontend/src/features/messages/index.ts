export { callsQuery, cancellingQuery, cancellingTextQuery, useMessagesLive } from './queries';
export { WriteAbout } from './WriteAbout';
