export { SignIn } from './SignIn';
export { may, sessionQuery, useSession, useSignOut, type Session } from './session';
export { Portrait } from './Portrait';
export { SkillsField } from './SkillsField';
export { useSkills, useTechnicians } from './queries';
