/** A Chromium's path: there already, or Debian's; null when there is none. */
export function chromium(): string | null;
/** Installs the independent peers that tests speak with, where it may. */
export function peers(): void;
