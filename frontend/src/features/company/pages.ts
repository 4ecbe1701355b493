// What the router shows of this feature: fetched when it is first opened.

export { SettingsPage } from './settings/SettingsPage';
export { HolidaysPage } from './holidays/HolidaysPage';
export { FieldsPage } from './fields/FieldsPage';
export { CertificatesPage, SkillsPage, TagsPage, VehiclesPage } from './names/NamesPage';
export { SetUp } from './SetUp';
export { CompanyPage } from './facts/CompanyPage';
