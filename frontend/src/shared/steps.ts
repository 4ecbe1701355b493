/** What the steps of the work at a visit are called. */
export const KIND_WORDS: Record<string, string> = {
  know: 'What to know first',
  depart: 'Set out',
  arrive: 'Arrive',
  form: 'Form',
  tasks: 'Tasks',
  photos: 'Photos',
  parts: 'Parts',
  time: 'Time',
  charges: 'Charges and kilometres',
  notes: 'Notes',
  acceptance: 'Customer’s acceptance',
  finish: 'Finish',
};

/** The visit's own way: always there, always to be done, in this order. */
export const WAY = ['depart', 'arrive', 'finish'];
