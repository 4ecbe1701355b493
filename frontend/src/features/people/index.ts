export { SignIn } from './SignIn';
export { may, sessionQuery, useSession, useSignOut, type Session } from './session';
export { Portrait } from './Portrait';
export { useSkills } from './queries';
