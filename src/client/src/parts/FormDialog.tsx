import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

interface FormDialogProps {
  title: string;
  onClose: () => void;
  children: ReactNode;
}

/** A form over the place one is in, which stays as it is beneath. */
export function FormDialog({ title, onClose, children }: FormDialogProps) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="floating fixed top-[6vh] left-1/2 z-50 flex max-h-[88vh] w-[440px] -translate-x-1/2 flex-col"
        >
          <div className="flex items-center justify-between border-b border-line px-4 py-3">
            <Dialog.Title className="font-semibold">{title}</Dialog.Title>
            <Dialog.Close aria-label="Close" className="rounded p-1 text-quiet hover:text-ink">
              <X size={16} strokeWidth={1.5} />
            </Dialog.Close>
          </div>
          <div className="min-h-0 overflow-y-auto p-4">{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
