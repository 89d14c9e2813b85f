import { format, Validator, type Schema } from '@cfworker/json-schema';
import type { FieldError } from './problem';
import { TEXT_FORMAT } from './schema/common';
import { isText } from './text';

format[TEXT_FORMAT] = isText;

/**
 * A check against a JSON Schema without making code of it: for pages, whose policy forbids that (Content Security Policy,
 * `unsafe-eval`). Slower, and with plainer words; the outcome is the same.
 *
 * @returns the first error, the innermost that is known of it; undefined where there is none
 */
export function interpreted(schema: object): (value: unknown) => FieldError | undefined {
  const validator = new Validator(schema as Schema, '7', true);
  return (value) => {
    const { valid, errors } = validator.validate(value);
    if (valid) return undefined;
    // From the outside in: the last one says it most exactly.
    const { instanceLocation, error } = errors.at(-1)!;
    return { pointer: decodeURIComponent(instanceLocation.replace(/^#/, '')), reason: error };
  };
}

let makes: boolean | undefined;

/** Whether code may be made of text here. */
export function mayMakeCode(): boolean {
  if (makes === undefined) {
    try {
      makes = Boolean(new Function('return true')());
    } catch {
      makes = false;
    }
  }
  return makes;
}
