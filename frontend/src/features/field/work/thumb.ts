/** Fields that a thumb in a glove can hit and an arm's length can read. */
export const THUMB =
  '[&_input]:min-h-14 [&_input]:text-lg [&_label]:text-sm [&_select]:min-h-14 [&_select]:text-lg [&_textarea]:text-lg';
