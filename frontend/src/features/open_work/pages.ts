// What the router shows of this feature: fetched when it is first opened.

export { OpenWorkPage } from './OpenWorkPage';
