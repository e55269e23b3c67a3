/** A button that asks for files. */
import { type ReactNode, useRef } from 'react';
import { Button } from './Button.js';

interface Props {
  /** What the files are, for those who do not see the button. */
  label: string;
  /** Endings and types, as `input` takes them. */
  accept: string;
  multiple?: boolean;
  disabled?: boolean;
  look?: 'primary';
  onFiles: (files: File[]) => void;
  children: ReactNode;
}
export function ChooseFiles({ label, accept, multiple = false, disabled, look, onFiles, children }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button look={look} disabled={disabled} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        multiple={multiple}
        aria-label={label}
        accept={accept}
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          onFiles([...(e.target.files ?? [])]);
          // the same file may be chosen again
          e.target.value = '';
        }}
      />
    </>
  );
}
