import type { ReactNode } from 'react';

/** Across every page: what is wrong with the server itself, and the way out. */
export function PageBar({ name, children }: { name: string; children: ReactNode }) {
  return (
    <section aria-label={name} className="border-b-2 border-error bg-base-200 px-4 lg:px-7 py-3 text-[15px]">
      {children}
    </section>
  );
}
