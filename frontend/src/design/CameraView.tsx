import { useEffect, useRef, useState } from 'react';
import { codesInVideo } from '@/shared/camera';
import { Button } from './Button';

interface Props {
  onCode: (code: string) => void;
  onClose: () => void;
  size?: 'row' | 'thumb';
}

/** The camera's picture; each code in it is told once until another one is seen. */
export function CameraView({ onCode, onClose, size = 'row' }: Props) {
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
      <video
        ref={video}
        muted
        playsInline
        className={`${size === 'thumb' ? 'h-48 w-full object-cover' : 'h-32'} rounded-sm border border-hairline bg-wash`}
      />
      {problem && <p className="max-w-60 text-xs text-bad">{problem}</p>}
      <Button rank="quiet" size={size} onClick={onClose}>
        Close the camera
      </Button>
    </div>
  );
}
