export { useSettings, useSetting, useRecordFields, settingsKey, useCompany } from './queries';
export { SettingsPage } from './settings/SettingsPage';
export { HolidaysPage } from './holidays/HolidaysPage';
export { FieldsPage } from './fields/FieldsPage';
export { QuestionsEditor } from './fields/QuestionsEditor';
export { SetUp } from './SetUp';
