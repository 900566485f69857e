import { useEffect, useEffectEvent } from 'react';
import { useHotkey } from '../../parts/useHotkey';

/** Single letters copy, as long as nobody types. */
export function useCopyKeys(copy: (key: string) => void) {
  useHotkey('c', () => copy('c'));
  useHotkey('s', () => copy('s'));
  useHotkey('p', () => copy('p'));
  useHotkey('e', () => copy('e'));
  useHotkey('h', () => copy('h'));
  useHotkey('m', () => copy('m'));
  useHotkey('t', () => copy('t'));
}

/** A text pasted where there is no field may be a link. */
export function usePasteAnywhere(take: (text: string) => boolean) {
  const onPaste = useEffectEvent((event: ClipboardEvent) => {
    const at = event.target;
    if (event.defaultPrevented || (at instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(at.tagName))) return;
    if (take(event.clipboardData?.getData('text') ?? '')) event.preventDefault();
  });
  useEffect(() => {
    const listen = (event: ClipboardEvent) => onPaste(event);
    document.addEventListener('paste', listen);
    return () => document.removeEventListener('paste', listen);
  }, []);
}
