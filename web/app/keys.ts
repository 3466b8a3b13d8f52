import { useEffect } from 'react';
import { useAppSelector } from './store.ts';

/** What a key does, in the words of the list of keys, and the deed; without one it is only named: its field listens itself. */
export type Key = readonly [does: string, run?: (event: KeyboardEvent) => void];
export type Keys = Readonly<Record<string, Key>>;

/** Keys that work just now, and whether they do on every page. */
const inUse = new Map<Keys, boolean>();

/** What stands for a key on the screen, where it is not the key itself. */
const NAMES: Readonly<Record<string, string>> = {
  Escape: 'Esc',
  'Ctrl+k': 'Ctrl K',
  ArrowDown: '↓',
  ArrowUp: '↑',
};

/**
 * The list of keys, made from the keys themselves: name, and what it does here. The same key of two is the first one's.
 */
export function keysInUse(): readonly (readonly [string, string])[] {
  const list = new Map<string, string>();
  const ofThePageFirst = [...inUse].sort(([, a], [, b]) => Number(a) - Number(b));
  for (const [keys] of ofThePageFirst)
    for (const [key, [does]] of Object.entries(keys)) {
      const name = NAMES[key] ?? key;
      if (!list.has(name)) list.set(name, does);
    }
  return [...list];
}

const WALKS = ['j', 'k'];

/** True while a letter means text or a button, not a command. */
function busy(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable) return true;
  return (key === ' ' || key === 'Enter') && /^(BUTTON|A|SUMMARY)$/.test(target.tagName);
}

/**
 * Single keys, with "g m" as two in a row. They can be switched off in Set-up (WCAG 2.1.4); Ctrl/Cmd K stays.
 *
 * @param everywhere on every page: named last in the list of keys
 */
export function useKeys(keys: Keys, everywhere = false): void {
  const on = useAppSelector((s) => s.settings.singleKeys);
  useEffect(() => {
    let before = '';
    let timer: ReturnType<typeof setTimeout> | undefined;
    const listen = (event: KeyboardEvent) => {
      // A dialog has its own keys: Esc closes it and does nothing else.
      if (event.defaultPrevented || event.altKey || document.querySelector('dialog[open]')) return;
      if (event.ctrlKey || event.metaKey) {
        keys[`Ctrl+${event.key.toLowerCase()}`]?.[1]?.(event);
        return;
      }
      if (!on || busy(event.target, event.key)) return;
      // A key that is held down must not go through a run: only rows are walked along so.
      if (event.repeat && !WALKS.includes(event.key)) return;
      const key = event.key === ' ' ? 'Space' : event.key;
      const run = keys[`${before}${key}`]?.[1];
      before = key === 'g' && !run ? 'g ' : '';
      clearTimeout(timer);
      timer = setTimeout(() => (before = ''), 1200);
      if (!run) return;
      event.preventDefault();
      run(event);
    };
    window.addEventListener('keydown', listen);
    inUse.set(keys, everywhere);
    return () => {
      window.removeEventListener('keydown', listen);
      inUse.delete(keys);
    };
  }, [keys, on, everywhere]);
}
