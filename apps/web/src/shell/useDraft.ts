import { useCallback, useEffect, useState } from 'react';
import type { FieldValues, Path, PathValue, UseFormReturn } from 'react-hook-form';
import { z } from 'zod';

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

/** What was typed, by the name of its field. */
const FieldDraftsSchema = z.record(z.string(), z.string());

function fieldDrafts(key: string): Readonly<Record<string, string>> {
  try {
    return FieldDraftsSchema.parse(JSON.parse(stored(key) ?? '{}'));
  } catch {
    // Of another release, or cut short: nothing of it can be used.
    return {};
  }
}

/**
 * Keeps what is being typed into a form of text fields: what others change comes into the fields that nobody has
 * touched here, and what was touched survives a reload of this tab.
 * @param key changes with the fields that the form has
 * @returns how to forget it once it is saved
 */
export function useFormDraft<T extends FieldValues>(key: string, form: UseFormReturn<T>): () => void {
  const { watch, reset, setValue, getValues } = form;
  useEffect(() => {
    for (const [name, text] of Object.entries(fieldDrafts(key))) {
      // A name that this form gave itself; a field that it no longer has is passed over.
      const field = name as Path<T>;
      if (getValues(field) !== undefined)
        setValue(field, text as PathValue<T, Path<T>>, { shouldDirty: true });
    }
    const subscription = watch((_values, { name }) => {
      // Without a name it was not typed: a colleague's change came in.
      if (name === undefined) return;
      store(key, JSON.stringify({ ...fieldDrafts(key), [name]: String(getValues(name)) }));
    });
    return () => subscription.unsubscribe();
  }, [key, watch, setValue, getValues]);
  return useCallback(() => {
    reset(undefined, { keepValues: true });
    store(key, null);
  }, [key, reset]);
}
