import { Upload } from 'lucide-react';
import { useRef } from 'react';

interface FileInputProps {
  /** Name of the field, for whoever can't see the button. */
  label: string;
  /** Endings of the files it takes, such as `.csv,.xlsx`. */
  accept: string;
  says: string;
  onFile: (file: File) => void;
  pending?: boolean;
  title?: string;
  /** The look of the button: the main one of a view, one of several, or a word in a line. */
  look?: 'main' | 'beside' | 'plain';
}

const looks = { main: 'button-main', beside: 'button', plain: 'button-plain' };

/** A button that brings a file. The same file can be brought twice. */
export function FileInput({ label, accept, says, onFile, pending, title, look = 'beside' }: FileInputProps) {
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={file}
        type="file"
        tabIndex={-1}
        aria-label={label}
        accept={accept}
        className="sr-only"
        onChange={(e) => {
          if (e.target.files?.[0]) onFile(e.target.files[0]);
          e.target.value = '';
        }}
      />
      <button
        type="button"
        className={looks[look]}
        title={title}
        disabled={pending}
        onClick={() => file.current?.click()}
      >
        <Upload size={14} strokeWidth={1.5} /> {pending ? 'Reading …' : says}
      </button>
    </>
  );
}
