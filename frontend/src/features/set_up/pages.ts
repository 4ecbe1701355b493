// What the router shows of this feature: fetched when it is first opened.

export { FirstSteps } from './first_steps/FirstSteps';
export { DepotsPage } from './depots/DepotsPage';
export { PeoplePage } from './people/PeoplePage';
export { ArchivePage } from './archive/ArchivePage';
export { DaysOffPage } from './days_off/DaysOffPage';
export { RegionPage } from './region/RegionPage';
export { SetUpFilesPage } from './files/SetUpFilesPage';
export { SkillsSheet } from './skills/SkillsSheet';
