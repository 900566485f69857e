import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import type { PlacementAnswer } from '../../api/client';
import { PlacementForm } from '../plan/PlacementForm';

interface NewPlacementProps {
  name: string;
  onMade: (made: PlacementAnswer) => void;
  onClose: () => void;
}

/** Writes a placement down without leaving Compose. */
export function NewPlacement({ name, onMade, onClose }: NewPlacementProps) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="floating fixed top-[6vh] left-1/2 z-50 flex max-h-[88vh] w-[440px] -translate-x-1/2 flex-col"
        >
          <div className="flex items-center justify-between border-b border-line px-4 py-3">
            <Dialog.Title className="font-semibold">New placement</Dialog.Title>
            <Dialog.Close aria-label="Close" className="rounded p-1 text-quiet hover:text-ink">
              <X size={16} strokeWidth={1.5} />
            </Dialog.Close>
          </div>
          <div className="min-h-0 overflow-y-auto p-4">
            <PlacementForm name={name} onSaved={onMade} />
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
