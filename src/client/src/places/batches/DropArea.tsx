import { useState, type ReactNode } from 'react';

interface DropAreaProps {
  disabled: boolean;
  onFile: (file: File) => void;
  children: ReactNode;
}

/** Takes a file that is dropped anywhere on it. */
export function DropArea({ disabled, onFile, children }: DropAreaProps) {
  const [over, setOver] = useState(false);
  return (
    <div
      className={`flex min-h-0 flex-1 flex-col ${over ? 'outline-2 -outline-offset-4 outline-accent outline-dashed' : ''}`}
      onDragOver={(e) => {
        if (disabled) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        if (!disabled && e.dataTransfer.files[0]) onFile(e.dataTransfer.files[0]);
      }}
    >
      {children}
    </div>
  );
}
