export { may, sessionQuery, useSession, type Session } from './session';
export { forgetWho } from './kept';
export { Portrait } from './Portrait';
export { CertificatesField } from './CertificatesField';
export { SkillsField } from './SkillsField';
export { useCertificates, useSkillName, useSkills, useTechnicians } from './queries';
