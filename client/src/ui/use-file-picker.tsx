import { useRef, type ReactNode } from 'react';

/**
 * The browser's picker for one file: an element to put somewhere, and the way to open it.
 *
 * @param label what is picked, for screen readers and tests
 * @param accept types and endings, as the browser takes them; all where it is empty
 */
export function useFilePicker(
  label: string,
  accept: string,
  onFile: (file: File) => void,
): { picker: ReactNode; open(): void } {
  const input = useRef<HTMLInputElement>(null);
  const picker = (
    <input
      ref={input}
      type="file"
      accept={accept}
      aria-label={label}
      tabIndex={-1}
      style={{ display: 'none' }}
      onChange={(event) => {
        const [file] = event.target.files ?? [];
        // So that the same file can be picked again.
        event.target.value = '';
        if (file) onFile(file);
      }}
    />
  );
  return { picker, open: () => input.current?.click() };
}
