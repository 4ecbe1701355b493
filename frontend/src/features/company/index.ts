export { useSettings, useSetting, useRecordFields, settingsKey, useCompany } from './queries';
export { useTags, useTagWords } from './names/queries';
export { QuestionsEditor } from './fields/QuestionsEditor';
