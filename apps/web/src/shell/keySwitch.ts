import { useSyncExternalStore } from 'react';

const name = 'ulvane single keys';
const listeners = new Set<() => void>();

/** Whether single keys are commands in this browser; on until somebody switches them off. */
export function areKeysOn(): boolean {
  try {
    return localStorage.getItem(name) !== 'off';
  } catch {
    // A browser without storage keeps the usual.
    return true;
  }
}

function switchKeys(on: boolean): void {
  try {
    localStorage.setItem(name, on ? 'on' : 'off');
  } catch {
    // Then the keys stay on.
  }
  for (const tell of listeners) tell();
}

function subscribe(tell: () => void): () => void {
  listeners.add(tell);
  return () => listeners.delete(tell);
}

export function useKeySwitch(): readonly [on: boolean, change: (on: boolean) => void] {
  return [useSyncExternalStore(subscribe, areKeysOn), switchKeys];
}
