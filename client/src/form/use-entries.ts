import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { useStable } from '../ui/use-stable';
import { initialTexts, readForm, type FormContext } from './read';
import type { Specs, Texts, Values } from './specs';

/** A form: what is typed in it so far, what that says, and what is wrong with it by entry. */
export interface Entries<S extends Specs> {
  specs: S;
  texts: Texts;
  /** Undefined while one of the entries is wrong. */
  values: Values<S> | undefined;
  faults: Readonly<Record<string, string>>;
  /** Puts other texts into some entries. */
  set(change: Texts): void;
}

/**
 * The entries of a form and their state. A form about a clip needs a context.
 *
 * @param make its fields, from what stands when the form opens
 */
export function useEntries<S extends Specs>(make: () => S, context?: FormContext): Entries<S> {
  const [specs] = useState(make);
  const [defaultValues] = useState(() => initialTexts(specs, context));
  const { control, setValue } = useForm<Record<string, string>>({ defaultValues });
  const texts = useWatch({ control }) as Texts;
  const set = useStable((change: Texts): void => {
    for (const [name, text] of Object.entries(change)) setValue(name, text);
  });
  return { specs, texts, ...readForm(specs, texts, context), set };
}
