import { useEffect, useState } from 'react';

/** Says that something is under way, but only from 0.3 s on. */
export function Waiting({ what }: { what: string }) {
  const [shown, setShown] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setShown(true), 300);
    return () => clearTimeout(timer);
  }, []);
  return shown ? (
    <p className="p-6 sub" role="status">
      {what} …
    </p>
  ) : null;
}
