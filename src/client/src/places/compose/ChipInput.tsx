import { X } from 'lucide-react';
import { useState, type ClipboardEvent } from 'react';

interface ChipInputProps {
  label: string;
  placeholder: string;
  values: string[];
  onChange: (values: string[]) => void;
  mono?: boolean;
  /** May take a pasted text over; true when it did. */
  onPasted?: (text: string) => boolean;
}

/** Several short texts in one line; Enter adds, pasted lines become one each. */
export function ChipInput({ label, placeholder, values, onChange, mono = false, onPasted }: ChipInputProps) {
  const [text, setText] = useState('');

  function add(lines: string[]) {
    const fresh = lines.map((l) => l.trim()).filter((l) => l !== '' && !values.includes(l));
    if (fresh.length) onChange([...values, ...fresh]);
    setText('');
  }

  function onPaste(event: ClipboardEvent) {
    const pasted = event.clipboardData.getData('text');
    if (onPasted?.(pasted)) {
      event.preventDefault();
    } else if (/[\r\n]/.test(pasted.trim())) {
      event.preventDefault();
      add(pasted.split(/\r?\n/));
    }
  }

  return (
    <span
      className={`inline-flex min-h-8 flex-wrap items-center gap-1 rounded border border-line-strong bg-sheet px-1 focus-within:border-accent ${mono ? 'font-mono text-xs' : ''}`}
    >
      {values.map((value) => (
        <span key={value} className="inline-flex h-6 max-w-80 items-center gap-1 rounded bg-page pr-0.5 pl-2">
          <span className="truncate" title={value}>
            {value}
          </span>
          <button
            type="button"
            aria-label={`Remove ${value}`}
            className="rounded p-0.5 text-quiet hover:text-ink"
            onClick={() => onChange(values.filter((v) => v !== value))}
          >
            <X size={12} strokeWidth={1.5} />
          </button>
        </span>
      ))}
      <input
        aria-label={label}
        className="h-7 min-w-40 flex-1 bg-transparent px-1 outline-none"
        placeholder={placeholder}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onPaste={onPaste}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && !e.ctrlKey && !e.metaKey) {
            e.preventDefault();
            add([text]);
          } else if (e.key === 'Backspace' && text === '' && values.length) {
            onChange(values.slice(0, -1));
          }
        }}
        onBlur={() => text.trim() && add([text])}
      />
    </span>
  );
}
