import { useEffect, useId, useRef } from 'react';

interface CellEditorProps {
  label: string;
  /** What stands in the box to begin with. */
  text: string;
  known: string[];
  /** Takes the text; the selection then moves by so many rows and columns. */
  onDone: (text: string, down: number, right: number) => void;
  onCancel: () => void;
}

/** The box a cell turns into while it is typed in: Enter goes on below, Tab beside, Escape leaves it as it was. */
export function CellEditor({ label, text, known, onDone, onCancel }: CellEditorProps) {
  const list = useId();
  const box = useRef<HTMLInputElement>(null);
  const ended = useRef(false);
  useEffect(() => box.current?.focus(), []);
  function end(action: () => void) {
    if (ended.current) return;
    ended.current = true;
    action();
  }
  return (
    <>
      <input
        ref={box}
        className="input h-8 w-full min-w-0"
        aria-label={label}
        list={known.length > 0 ? list : undefined}
        defaultValue={text}
        onPointerDown={(e) => e.stopPropagation()}
        onKeyDown={(e) => {
          e.stopPropagation();
          const value = e.currentTarget.value;
          if (e.key === 'Enter') end(() => onDone(value, e.shiftKey ? -1 : 1, 0));
          else if (e.key === 'Tab') end(() => onDone(value, 0, e.shiftKey ? -1 : 1));
          else if (e.key === 'Escape') end(onCancel);
          else return;
          e.preventDefault();
        }}
        onBlur={(e) => {
          const value = e.target.value;
          end(() => onDone(value, 0, 0));
        }}
      />
      {known.length > 0 && (
        <datalist id={list}>
          {known.map((word) => (
            <option key={word} value={word} />
          ))}
        </datalist>
      )}
    </>
  );
}
