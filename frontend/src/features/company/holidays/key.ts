export const holidaysKey = ['company', 'holidays'] as const;
