import { useEffect, useRef, useState } from 'react';

/**
 * A value that changes often, for a picture that need not: it follows at once, but never twice within `ms`.
 *
 * @param ms wall-clock milliseconds
 */
export function useAtMost<T>(value: T, ms: number): T {
  const [shown, setShown] = useState(value);
  const since = useRef(0);
  useEffect(() => {
    const show = () => {
      since.current = performance.now();
      setShown(value);
    };
    const wait = since.current + ms - performance.now();
    if (wait <= 0) return show();
    const timer = setTimeout(show, wait);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return shown;
}
