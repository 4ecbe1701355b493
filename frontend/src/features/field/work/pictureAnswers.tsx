import { useState } from 'react';
import { Button } from '@/design/Button';
import { SignaturePad } from '@/design/SignaturePad';
import type { AnswerProps } from './Answers';
import { Picture } from './Picture';
import { useTakePictures } from './record';
import { TakePhotos } from './TakePhotos';

const isHere = ({ visit, value }: AnswerProps) =>
  visit.report.pictures.find(({ id }) => id === value)?.here ?? false;

export function PhotoAnswer(props: AnswerProps) {
  const { visit, question, value, onAnswer } = props;
  return (
    <div className="space-y-2">
      {typeof value === 'string' && (
        <Picture id={value} here={isHere(props)} words={question.label} className="h-40 w-full" />
      )}
      <TakePhotos
        visitId={visit.id}
        about={{ caption: question.label, question: question.key }}
        onTaken={([name]) => onAnswer(name!)}
      />
    </div>
  );
}

export function SignatureAnswer(props: AnswerProps) {
  const { visit, question, value, onAnswer } = props;
  const [drawn, setDrawn] = useState<string | null>(null);
  const take = useTakePictures(visit.id);
  if (typeof value === 'string')
    return (
      <div className="flex items-center gap-2">
        <Picture id={value} here={isHere(props)} words={question.label} className="h-24 flex-1 bg-white" />
        <Button size="thumb" onClick={() => onAnswer(null)}>
          Sign anew
        </Button>
      </div>
    );
  const keep = () =>
    take.mutate([{ drawn: drawn!, kind: 'signature', question: question.key }], {
      onSuccess: ([name]) => onAnswer(name!),
    });
  return (
    <div className="space-y-2">
      <SignaturePad label="Sign here" onDraw={setDrawn} className="h-40" />
      <Button size="thumb" className="w-full" disabled={!drawn || take.isPending} onClick={keep}>
        Keep the signature
      </Button>
    </div>
  );
}
