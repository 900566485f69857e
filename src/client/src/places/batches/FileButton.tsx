import { Upload } from 'lucide-react';
import { useRef } from 'react';

interface FileButtonProps {
  /** Name of the field, for whoever can't see the button. */
  label: string;
  accept: string;
  pending: boolean;
  says: string;
  onFile: (file: File) => void;
}

/** The main button that brings a file. */
export function FileButton({ label, accept, pending, says, onFile }: FileButtonProps) {
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={file}
        type="file"
        aria-label={label}
        accept={accept}
        className="sr-only"
        onChange={(e) => {
          if (e.target.files?.[0]) onFile(e.target.files[0]);
          e.target.value = '';
        }}
      />
      <button type="button" className="button-main" disabled={pending} onClick={() => file.current?.click()}>
        <Upload size={14} strokeWidth={1.5} /> {pending ? 'Reading …' : says}
      </button>
    </>
  );
}
