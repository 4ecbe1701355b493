import { Camera } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import { Button } from '@/design/Button';
import { CameraView } from '@/design/CameraView';
import { TextField } from '@/design/Field';
import { scan } from '@/features/stock';
import { complain } from '@/shared/complain';

interface Props {
  onFound: (code: string, serial: string, name: string) => void;
  onUnknown: (text: string) => void;
}

/** A code by a scanner that types it, by hand, or by the camera. The field keeps the focus. */
export function ScanField({ onFound, onUnknown }: Props) {
  const [text, setText] = useState('');
  const [camera, setCamera] = useState(false);
  const look = (code: string) => {
    if (!code.trim()) return;
    scan(code)
      .then(([first]) => (first ? onFound(first.code, first.serial, first.name) : onUnknown(code)))
      .catch(complain);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    look(text);
    setText('');
  };
  return (
    <form onSubmit={submit} aria-label="Scan" className="flex items-end gap-2">
      <TextField
        label="Scan or type a code"
        className="w-72"
        autoFocus
        autoComplete="off"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Button icon={<Camera size={16} />} aria-pressed={camera} onClick={() => setCamera(!camera)}>
        Camera
      </Button>
      {camera && <CameraView onCode={look} onClose={() => setCamera(false)} />}
    </form>
  );
}
