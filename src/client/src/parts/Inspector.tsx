import { X } from 'lucide-react';
import { useEffect, type ReactNode } from 'react';
import { useHotkey } from './useHotkey';

interface InspectorProps {
  title: string;
  onClose: () => void;
  children: ReactNode;
}

/** The panel at the right for the thing selected; Escape closes it. */
export function Inspector({ title, onClose, children }: InspectorProps) {
  useHotkey('Escape', onClose);
  useEffect(() => {
    const opener = document.activeElement;
    return () => {
      // Who closed it goes on where it was opened; who chose something else meanwhile is there already.
      setTimeout(() => {
        const lost = document.activeElement === document.body || document.activeElement === null;
        if (lost && opener instanceof HTMLElement && opener.isConnected) opener.focus();
      });
    };
  }, []);
  return (
    <aside
      aria-label={title}
      className="flex w-[360px] shrink-0 flex-col border-l border-line bg-sheet max-sm:fixed max-sm:inset-0 max-sm:z-40 max-sm:w-full"
    >
      <div className="flex shrink-0 items-start justify-between gap-2 border-b border-line px-4 py-3">
        <h2 className="min-w-0 font-semibold break-words">{title}</h2>
        <button type="button" className="rounded p-1 text-quiet hover:text-ink" aria-label="Close" onClick={onClose}>
          <X size={16} strokeWidth={1.5} />
        </button>
      </div>
      <div className="flex min-h-0 flex-1 flex-col gap-5 overflow-y-auto px-4 py-4">{children}</div>
    </aside>
  );
}

/** A headed part of the inspector. */
export function InspectorPart({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section>
      <h3 className="mb-1.5 text-xs font-medium text-quiet">{title}</h3>
      {children}
    </section>
  );
}
