import { useEffect, useRef } from 'react';
import { areKeysOn } from './keySwitch';

/** Where a key is text and not a command. */
function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))
  );
}

/** Single keys as commands, while nobody types and no dialog is open. */
export function useKeys(commands: Readonly<Record<string, () => void>>): void {
  const current = useRef(commands);
  useEffect(() => {
    current.current = commands;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (
        !areKeysOn() ||
        // What has the focus took it for itself.
        event.defaultPrevented ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        isTyping(event.target) ||
        document.querySelector('.modal.show')
      )
        return;
      const command = current.current[event.key];
      if (!command) return;
      event.preventDefault();
      command();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, []);
}
