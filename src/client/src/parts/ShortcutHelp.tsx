import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { useHotkey } from './useHotkey';

const keys = [
  ['Ctrl K', 'go anywhere'],
  ['?', 'this list'],
  ['↑ ↓', 'move between rows'],
  ['Enter', 'open the row'],
  ['Escape', 'close what is open'],
  ['→ ←', 'open and close a row of Arrivals'],
  ['f', 'filter Arrivals by the row'],
  ['l', 'show the links behind the row in the Ledger'],
  ['n t', 'Arrivals: plain numbers, a taller ruler'],
  ['w', 'watch arrivals live'],
  ['/', 'search the rows'],
  ['Ctrl Enter', 'save the links in Compose and copy them'],
  ['Space', 'select a row, or mark a text as placed'],
  ['Delete', 'remove links from the grid'],
  ['c s p', 'copy link, short link, parameters'],
  ['e h m', 'copy encoded, as HTML, as Markdown'],
  ['t', 'copy links as a table for a spreadsheet'],
] as const;

/** `?`: lists the keys. */
export function ShortcutHelp() {
  const [open, setOpen] = useState(false);
  useHotkey('?', () => setOpen(true));
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="floating fixed top-1/2 left-1/2 z-50 w-96 -translate-x-1/2 -translate-y-1/2 p-5"
        >
          <Dialog.Title className="mb-3 font-semibold">Keys</Dialog.Title>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-2">
            {keys.map(([key, does]) => (
              <div key={key} className="contents">
                <dt>
                  <kbd className="kbd">{key}</kbd>
                </dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
