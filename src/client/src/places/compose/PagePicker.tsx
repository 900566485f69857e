import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useId, useState, type ClipboardEvent } from 'react';
import { useDebounced } from '../../parts/useDebounced';
import { pagesQuery } from '../../api/queries';

interface PagePickerProps {
  label: string;
  value: string;
  /** A page was chosen, or typed and left. */
  onPick: (page: string) => void;
  className?: string;
  placeholder?: string;
  readOnly?: boolean;
  autoFocus?: boolean;
  /** Takes the text away once it was picked, for picking several. */
  clears?: boolean;
  onPaste?: (event: ClipboardEvent) => void;
  onEmptyBackspace?: () => void;
}

/** A page's address, typed or found among the pages the workspace knows by title or path. */
export function PagePicker(props: PagePickerProps) {
  const { label, value, onPick, className, placeholder, readOnly, autoFocus, clears, onPaste, onEmptyBackspace } =
    props;
  const list = useId();
  // What is typed counts until the value changes from outside.
  const [typed, setTyped] = useState({ of: value, text: value });
  const text = typed.of === value ? typed.text : value;
  const setText = (next: string) => setTyped({ of: value, text: next });
  const [open, setOpen] = useState(false);
  const [marked, setMarked] = useState<string | null>(null);
  const asked = useDebounced(text, 120);
  const looksTyped = /^https?:\/\/\S+\/\S/.test(text);
  const pages = useQuery({ ...pagesQuery(asked, 8), enabled: open && !readOnly, placeholderData: keepPreviousData });

  // Pages still on the way from an earlier question are shown only as far as they have the words typed since.
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = (open && !readOnly && !looksTyped ? (pages.data?.pages ?? []) : []).filter(
    (p) => p.address !== text && words.every((w) => `${p.title ?? ''} ${p.address}`.toLowerCase().includes(w)),
  );
  const at = shown.findIndex((p) => p.address === marked);

  function pick(page: string) {
    setOpen(false);
    setMarked(null);
    setText(clears ? '' : page);
    if (page.trim() !== '' || !clears) onPick(page.trim());
  }

  return (
    <span className="relative block min-w-0">
      <input
        role="combobox"
        aria-label={label}
        aria-expanded={shown.length > 0}
        aria-controls={list}
        aria-activedescendant={at >= 0 ? `${list}-${at}` : undefined}
        aria-autocomplete="list"
        className={className}
        placeholder={placeholder}
        readOnly={readOnly}
        autoFocus={autoFocus}
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setOpen(true);
          setMarked(null);
        }}
        onFocus={() => text === '' && setOpen(true)}
        onPaste={onPaste}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
            e.preventDefault();
            setOpen(true);
            setMarked(shown[Math.min(shown.length - 1, at + (e.key === 'ArrowDown' ? 1 : -1))]?.address ?? null);
          } else if (e.key === 'Enter' && !e.ctrlKey && !e.metaKey) {
            e.preventDefault();
            pick(shown[at]?.address ?? text);
          } else if (e.key === 'Escape' && open && shown.length > 0) {
            e.preventDefault();
            setOpen(false);
          } else if (e.key === 'Backspace' && text === '') {
            onEmptyBackspace?.();
          }
        }}
        onBlur={() => pick(text)}
      />
      <ul
        id={list}
        role="listbox"
        aria-label={`Pages for ${label}`}
        hidden={shown.length === 0}
        className="floating absolute top-full left-0 z-30 mt-1 w-[26rem] max-w-[80vw] p-1 font-sans"
      >
        {shown.map((page, i) => (
          <li
            key={page.id}
            id={`${list}-${i}`}
            role="option"
            aria-selected={i === at}
            className="flex items-baseline gap-2 rounded px-2 py-1 text-sm aria-selected:bg-accent-wash hover:bg-accent-wash"
            onPointerDown={(e) => {
              e.preventDefault();
              pick(page.address);
            }}
          >
            <span className="truncate">{page.title ?? 'No title yet'}</span>
            <span className="caption min-w-0 flex-1 truncate text-right font-mono">
              {page.address.replace(/^https?:\/\//, '')}
            </span>
          </li>
        ))}
      </ul>
    </span>
  );
}
