// Fields of forms whose value is more than a word.

import type { ComponentProps } from 'react';
import type { Question } from '@/shared/questions';
import { FormValue } from './form';
import { Questions } from './Questions';
import { TagsField, type Tag } from './TagsField';

/** Tags, of the company's list. */
export const FormTags = ({ name, tags }: { name: string; tags: readonly Tag[] }) => (
  <FormValue name={name}>
    {({ value, onChange }) => <TagsField tags={tags} chosen={value as string[]} onChange={onChange} />}
  </FormValue>
);

interface OwnFields {
  name: string;
  /** As the server sends them. */
  questions: readonly object[];
  onFile: ComponentProps<typeof Questions>['onFile'];
}

/** The own fields of a record. */
export const FormOwnFields = ({ name, questions, onFile }: OwnFields) => (
  <FormValue name={name}>
    {({ value, onChange }) => (
      <Questions
        questions={questions as unknown as Question[]}
        answers={value as Record<string, unknown>}
        onChange={onChange}
        onFile={onFile}
      />
    )}
  </FormValue>
);
