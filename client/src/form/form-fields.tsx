import { useAppDispatch, useAppSelector } from '../store/hooks';
import { View } from 'react-native';
import { keepsChosen } from '../store/session-slice';
import { Choice } from '../ui/choice';
import { Field } from '../ui/field';
import { useArrangement } from '../ui/use-wide';
import { EaseEntry } from './ease-entry';
import type { Scope } from './read';
import type { FieldSpec, Specs, Texts } from './specs';

interface FormFieldsProps {
  specs: Specs;
  texts: Texts;
  faults: Readonly<Record<string, string>>;
  onChange(name: string, text: string): void;
}

/** The entries of a form, numbers side by side where there is room. */
export function FormFields({ specs, texts, faults, onChange }: FormFieldsProps) {
  const shown = Object.entries(specs).filter(([, spec]) => !spec.when || spec.when(texts));
  const phone = useArrangement() === 'phone';
  const shares = ([, spec]: [string, FieldSpec]): boolean => spec.kind === 'number' && !(phone && spec.long);
  const rows: [string, FieldSpec][][] = [];
  for (const entry of shown) {
    const row = rows.at(-1);
    if (shares(entry) && row && row.length < 2 && shares(row[0]!)) row.push(entry);
    else rows.push([entry]);
  }
  return (
    <>
      {rows.map((row) => (
        <View key={row[0]![0]} className={row[0]![1].kind === 'number' ? 'flex-row flex-wrap gap-3' : 'gap-3'}>
          {row.map(([name, spec]) => (
            <Entry key={name} {...{ name, spec, texts, faults, phone, onChange }} />
          ))}
        </View>
      ))}
    </>
  );
}

interface EntryProps extends Omit<FormFieldsProps, 'specs'> {
  name: string;
  phone: boolean;
  spec: FieldSpec;
}

function Entry({ name, spec, texts, faults, phone, onChange }: EntryProps) {
  switch (spec.kind) {
    case 'number':
      return (
        <Field
          label={spec.label}
          value={texts[name]!}
          onChange={(text) => onChange(name, text)}
          fault={faults[name]}
          hint={(texts[name] !== spec.initial && spec.comesTo?.(texts[name]!)) || spec.hint}
          {...(spec.step && {
            onStep: (by) => {
              const next = spec.step?.(texts[name]!, by);
              if (next !== undefined) onChange(name, next);
            },
          })}
        />
      );
    case 'words':
      return (
        <Field
          label={spec.label}
          words
          value={texts[name]!}
          onChange={(text) => onChange(name, text)}
          fault={faults[name]}
          hint={spec.hint?.(texts[name]!, texts)}
        />
      );
    case 'choice':
      return (
        <Choice
          label={spec.label}
          value={spec.instead?.(texts[name]!, texts) ?? texts[name]!}
          options={spec.options}
          whyNot={spec.whyNot && ((value) => spec.whyNot?.(value, texts))}
          oneLine={phone && spec.short === true}
          onChange={(value) => onChange(name, value)}
        />
      );
    case 'range':
      return <RangeEntry {...{ name, texts, faults, onChange }} />;
    case 'keeps':
      return <KeepsEntry />;
    case 'ease':
      return <EaseEntry {...{ name, texts, faults, onChange }} label={spec.label} frames={spec.frames} />;
  }
}

function KeepsEntry() {
  const dispatch = useAppDispatch();
  const keeps = useAppSelector((state) => state.session.keeps);
  return (
    <Choice
      label="Preserve"
      value={keeps}
      onChange={(value) => dispatch(keepsChosen(value))}
      options={[
        { value: 'content', label: 'Content' },
        { value: 'length', label: 'Duration' },
      ]}
    />
  );
}

function RangeEntry({ name, texts, faults, onChange }: Omit<EntryProps, 'spec' | 'phone'>) {
  const marks = useAppSelector((state) => state.session.marks);
  const marked = marks.from !== null || marks.to !== null;
  const field = (end: 'from' | 'to', label: string) => (
    <Field
      label={label}
      value={texts[`${name}:${end}`]!}
      onChange={(text) => onChange(`${name}:${end}`, text)}
      fault={faults[`${name}:${end}`]}
    />
  );
  return (
    <>
      <Choice
        label="Apply to"
        value={texts[name] as Scope}
        onChange={(scope) => onChange(name, scope)}
        options={[
          { value: 'part', label: 'This part' },
          ...(marked ? [{ value: 'marked' as const, label: 'In to out' }] : []),
          { value: 'clip', label: 'Whole clip' },
          { value: 'typed', label: 'Range' },
        ]}
      />
      {texts[name] === 'typed' ? (
        <View className="flex-row gap-3">
          {field('from', 'From')}
          {field('to', 'To')}
        </View>
      ) : null}
    </>
  );
}
