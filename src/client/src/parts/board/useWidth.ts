import { useEffect, useState, type RefObject } from 'react';

/** How wide something is, in CSS pixels; 0 until it is measured. */
export function useWidth(of: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const element = of.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setWidth(element.clientWidth));
    watch.observe(element);
    return () => watch.disconnect();
  }, [of]);
  return width;
}
