import { useCallback, useEffect, useState } from 'react';
import type { DefaultValues, FieldValues, UseFormReturn } from 'react-hook-form';

const nameOf = (key: string) => `ulvane draft: ${key}`;

function stored(key: string): string | null {
  try {
    return sessionStorage.getItem(nameOf(key));
  } catch {
    // A browser that keeps nothing keeps no drafts either.
    return null;
  }
}

function store(key: string, text: string | null): void {
  try {
    if (text === null) sessionStorage.removeItem(nameOf(key));
    else sessionStorage.setItem(nameOf(key), text);
  } catch {
    // The same: what is typed stays in the page.
  }
}

/**
 * A text that is being typed: it survives what others do, another stage, and a reload of this tab.
 * @returns the text, how to change it, and how to forget it once it is saved
 */
export function useDraft(key: string): readonly [string, (text: string) => void, () => void] {
  const [text, setText] = useState(() => stored(key) ?? '');
  const change = useCallback(
    (next: string) => {
      setText(next);
      store(key, next === '' ? null : next);
    },
    [key],
  );
  const forget = useCallback(() => {
    setText('');
    store(key, null);
  }, [key]);
  return [text, change, forget];
}

/**
 * Keeps what is being typed into a form: what others change comes into the fields that nobody has touched here, and
 * the rest survives a reload of this tab.
 * @returns how to forget it once it is saved
 */
export function useFormDraft<T extends FieldValues>(key: string, form: UseFormReturn<T>): () => void {
  const { watch, reset, formState } = form;
  const { isDirty } = formState;
  useEffect(() => {
    const text = stored(key);
    if (text === null) return;
    // Written by this form itself, in this tab; a field that is gone since is left out by the form.
    reset(JSON.parse(text) as DefaultValues<T>, { keepDefaultValues: true });
  }, [key, reset]);
  useEffect(() => {
    const subscription = watch((values) => store(key, JSON.stringify(values)));
    return () => subscription.unsubscribe();
  }, [key, watch]);
  useEffect(() => {
    if (!isDirty) store(key, null);
  }, [isDirty, key]);
  return useCallback(() => {
    reset(undefined, { keepValues: true });
    store(key, null);
  }, [key, reset]);
}
