export { useSettings, useSetting, useRecordFields, settingsKey, useCompany } from './queries';
export { QuestionsEditor } from './fields/QuestionsEditor';
