import { useEffect, useRef } from 'react';

/** True while the person is typing somewhere, so that single letters belong to the text. */
function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/**
 * Does something when a key is pressed anywhere.
 * @param keys Such as `Escape`, `?` or `Ctrl+Enter`; Ctrl also stands for the Command key.
 */
export function useHotkey(keys: string, action: () => void): void {
  const latest = useRef(action);
  useEffect(() => {
    latest.current = action;
  });
  useEffect(() => {
    const withCtrl = keys.startsWith('Ctrl+');
    const key = withCtrl ? keys.slice(5) : keys;
    function onKey(event: KeyboardEvent) {
      if (event.key.toLowerCase() !== key.toLowerCase() || withCtrl !== (event.ctrlKey || event.metaKey)) return;
      if (event.defaultPrevented || (!withCtrl && key !== 'Escape' && isTyping(event.target))) return;
      event.preventDefault();
      latest.current();
    }
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [keys]);
}
