import { useState } from 'react';
import { Field } from './field';

interface NameFieldProps {
  label: string;
  /** The name as it is. */
  name: string;
  /** Given a name that differs, without space around it, when the entry is left or sent. */
  onName(name: string): void;
  /** Words in the empty entry, in place of a label in sight. */
  bare?: string;
}

/** An entry for the name of something; it follows where the name is changed elsewhere, by undo for one. */
export function NameField(props: NameFieldProps) {
  return <NameEntry key={props.name} {...props} />;
}

function NameEntry({ label, name, onName, bare }: NameFieldProps) {
  const [typed, setTyped] = useState(name);
  const keep = (): void => {
    if (typed.trim() !== name) onName(typed.trim());
  };
  return (
    <Field
      label={label}
      words
      value={typed}
      onChange={setTyped}
      onSubmit={keep}
      onBlur={keep}
      {...(bare !== undefined && { bare })}
    />
  );
}
