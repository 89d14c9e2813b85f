import { nanoid } from '@reduxjs/toolkit';

/** An id for something new in a project. */
export const newId = (): string => `id-${nanoid(12)}`;
