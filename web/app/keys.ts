import { useEffect } from 'react';
import { useAppSelector } from './store.ts';

export type Keys = Readonly<Record<string, (event: KeyboardEvent) => void>>;

const WALKS = ['j', 'k'];

/** True while a letter means text or a button, not a command. */
function busy(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable) return true;
  return (key === ' ' || key === 'Enter') && /^(BUTTON|A|SUMMARY)$/.test(target.tagName);
}

/**
 * Single keys, with "g m" as two in a row. They can be switched off in Set-up (WCAG 2.1.4); Ctrl/Cmd K stays.
 */
export function useKeys(keys: Keys): void {
  const on = useAppSelector((s) => s.settings.singleKeys);
  useEffect(() => {
    let before = '';
    let timer: ReturnType<typeof setTimeout> | undefined;
    const listen = (event: KeyboardEvent) => {
      // A dialog has its own keys: Esc closes it and does nothing else.
      if (event.defaultPrevented || event.altKey || document.querySelector('dialog[open]')) return;
      if (event.ctrlKey || event.metaKey) {
        keys[`Ctrl+${event.key.toLowerCase()}`]?.(event);
        return;
      }
      if (!on || busy(event.target, event.key)) return;
      // A key that is held down must not go through a run: only rows are walked along so.
      if (event.repeat && !WALKS.includes(event.key)) return;
      const key = event.key === ' ' ? 'Space' : event.key;
      const run = keys[`${before}${key}`];
      before = key === 'g' && !run ? 'g ' : '';
      clearTimeout(timer);
      timer = setTimeout(() => (before = ''), 1200);
      if (!run) return;
      event.preventDefault();
      run(event);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [keys, on]);
}
