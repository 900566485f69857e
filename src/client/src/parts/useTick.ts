import { useEffect, useState } from 'react';

/** Draws anew every so many milliseconds, so that “3 minutes ago” stays true while nothing else changes. */
export function useTick(milliseconds: number): void {
  const [, setTicks] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => setTicks((ticks) => ticks + 1), milliseconds);
    return () => clearInterval(timer);
  }, [milliseconds]);
}
