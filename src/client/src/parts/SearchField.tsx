import { Search } from 'lucide-react';
import { useEffect, useRef, useState, type Ref } from 'react';
import { useDebounced } from './useDebounced';

interface SearchFieldProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  className?: string;
  ref?: Ref<HTMLInputElement>;
}

/** What rows are searched for; it is told on when typing pauses, and follows a value that changes elsewhere. */
export function SearchField({ label, value, onChange, className = '', ref }: SearchFieldProps) {
  const [text, setText] = useState(value);
  const told = useRef(value);
  const settled = useDebounced(text, 200);
  useEffect(() => {
    if (settled === told.current) return;
    told.current = settled;
    onChange(settled);
    // What was typed is told once it has settled; onChange is made anew each time.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [settled]);
  useEffect(() => {
    if (value === told.current) return;
    told.current = value;
    setText(value);
  }, [value]);
  return (
    <label className={`relative ${className}`}>
      <Search size={13} strokeWidth={1.5} className="absolute top-2 left-2 text-quiet" />
      <input
        ref={ref}
        className="input h-7 w-40 pl-7 text-xs"
        placeholder={label}
        aria-label={label}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
    </label>
  );
}
