import { EditRefused } from '@hastig/core';

/** What an edit comes to, or why it cannot be made; neither while there is no edit. */
interface Tried<T> {
  result?: T;
  fault?: string;
}

/** Makes an edit of something without keeping it. */
export function tryOut<T>(of: T, edit: ((of: T) => T) | undefined): Tried<T> {
  if (!edit) return {};
  try {
    return { result: edit(of) };
  } catch (error) {
    if (error instanceof EditRefused) return { fault: error.message };
    throw error;
  }
}
