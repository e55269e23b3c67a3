import {
  type InputHTMLAttributes,
  type ReactNode,
  type Ref,
  type SelectHTMLAttributes,
  type TextareaHTMLAttributes,
  useCallback,
  useEffect,
  useId,
  useRef,
  useState,
} from 'react';

const BOX = 'w-full rounded border border-rule bg-sheet px-2 py-1.5 text-ink placeholder:text-ink-2 hover:border-ink-2';

export function Field({
  label,
  hint,
  error,
  children,
}: {
  label: string;
  hint?: ReactNode;
  error?: string | undefined;
  children: (id: string, describedBy: string | undefined) => ReactNode;
}) {
  const id = useId();
  const note = error || hint ? `${id}-note` : undefined;
  return (
    <div className="grid gap-1">
      <label htmlFor={id} className="text-[13.5px] font-semibold">
        {label}
      </label>
      {children(id, note)}
      {(error || hint) && (
        <p id={note} className={`text-[13px] ${error ? 'text-brick' : 'text-ink-2'}`} role={error ? 'alert' : undefined}>
          {error ?? hint}
        </p>
      )}
    </div>
  );
}

export const Input = ({ className = '', ...rest }: InputHTMLAttributes<HTMLInputElement> & { ref?: Ref<HTMLInputElement> }) => (
  <input {...rest} className={`${BOX} ${className}`} />
);
export const Select = ({ className = '', ...rest }: SelectHTMLAttributes<HTMLSelectElement>) => <select {...rest} className={`${BOX} ${className}`} />;
export const TextArea = ({ className = '', ...rest }: TextareaHTMLAttributes<HTMLTextAreaElement> & { ref?: Ref<HTMLTextAreaElement> }) => (
  <textarea {...rest} className={`${BOX} field-sizing-content ${className}`} />
);

/**
 * A value that is typed here and handed on when typing rests or the field is left. A value that changes from outside
 * (undo, another person) shows unless something is being typed.
 */
export function useTyped(
  value: string,
  commit: (value: string) => void,
): { value: string; onChange: (e: { target: { value: string } }) => void; onBlur: () => void } {
  const [typed, setTyped] = useState<string | null>(null);
  const latest = useRef({ typed, commit, value });
  latest.current = { typed, commit, value };
  const handOn = useCallback((): void => {
    const now = latest.current;
    if (now.typed !== null && now.typed !== now.value) now.commit(now.typed);
  }, []);
  const flush = (): void => {
    handOn();
    setTyped(null);
    latest.current.typed = null;
  };
  useEffect(() => {
    if (typed === null) return;
    const timer = setTimeout(handOn, 700);
    return () => clearTimeout(timer);
  }, [typed, handOn]);
  // What is typed is not lost when the editor closes under it.
  useEffect(() => handOn, [handOn]);
  return {
    value: typed ?? value,
    onChange: (e) => {
      // known at once, not only once it is drawn: the field may be left or gone before that
      latest.current.typed = e.target.value;
      setTyped(e.target.value);
    },
    onBlur: flush,
  };
}
