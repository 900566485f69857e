import { Image } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { PictureItems } from './PictureItems';

/** Hands out what a page's charts show as a picture. */
export const PictureMenu = ({ title }: { title: string }) => (
  <DropdownMenu.Root>
    <DropdownMenu.Trigger className="button-plain">
      <Image size={14} strokeWidth={1.5} /> Picture
    </DropdownMenu.Trigger>
    <DropdownMenu.Portal>
      <DropdownMenu.Content align="end" sideOffset={4} className="floating z-40 min-w-48 p-1">
        <PictureItems title={title} />
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  </DropdownMenu.Root>
);
