import { Camera } from 'lucide-react';
import { useEffect, useRef, useState, type FormEvent } from 'react';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { scan } from '@/features/stock';
import { complain } from '@/shared/complain';
import { codesInVideo } from './camera';

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

/** The camera's picture; each code in it is told once until another one is seen. */
function CameraView({ onCode, onClose }: { onCode: (code: string) => void; onClose: () => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const [problem, setProblem] = useState('');
  const told = useRef(onCode);
  useEffect(() => {
    told.current = onCode;
  });
  useEffect(() => {
    const shown = video.current;
    if (!shown) return;
    return codesInVideo(shown, (code) => told.current(code), setProblem);
  }, []);
  return (
    <div className="space-y-1">
      <video ref={video} muted playsInline className="h-32 rounded-sm border border-hairline bg-wash" />
      {problem && <p className="max-w-60 text-xs text-bad">{problem}</p>}
      <Button rank="quiet" onClick={onClose}>
        Close the camera
      </Button>
    </div>
  );
}
