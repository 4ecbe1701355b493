import type { ReactNode } from 'react';

interface Props {
  onFile: (file: File) => void;
  className: string;
  children: ReactNode;
}

/** Words that open the choice of a file. The same file can be chosen again, as after it was mended. */
export const FileChoice = ({ onFile, className, children }: Props) => (
  <label className={`cursor-pointer focus-within:outline-2 ${className}`}>
    {children}
    <input
      type="file"
      className="sr-only"
      onChange={(event) => {
        const [file] = event.target.files ?? [];
        if (file) onFile(file);
        event.target.value = '';
      }}
    />
  </label>
);
