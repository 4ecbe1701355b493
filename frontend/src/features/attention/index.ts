export { Announcements, AttentionSign } from './Attention';
export { useMatters } from './queries';
