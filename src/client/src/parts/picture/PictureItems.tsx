import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { copyPicture, savePicture } from './handOut';

/** How an item of a menu looks. */
export const menuItem =
  'flex cursor-pointer items-center gap-3 rounded px-2 py-1.5 outline-none data-highlighted:bg-accent-wash';

/** The items of a menu that hand out what is seen as a picture. */
export function PictureItems({ title }: { title: string }) {
  const [says, setSays] = useState('');
  async function copy() {
    try {
      setSays((await copyPicture(title)) === 'copied' ? 'Copied' : 'Saved as a file');
    } catch (error) {
      setSays((error as Error).message);
    }
    setTimeout(() => setSays(''), 3_000);
  }
  return (
    <>
      <DropdownMenu.Item
        className={menuItem}
        onSelect={(e) => {
          e.preventDefault();
          void copy();
        }}
      >
        <span aria-live="polite">{says || 'Copy as picture (PNG)'}</span>
      </DropdownMenu.Item>
      <DropdownMenu.Item className={menuItem} onSelect={() => void savePicture(title)}>
        Save as picture (SVG)
      </DropdownMenu.Item>
    </>
  );
}
