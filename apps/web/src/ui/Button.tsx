import type { ButtonHTMLAttributes, ReactNode } from 'react';

type Look = 'primary' | 'plain' | 'quiet' | 'danger';
const LOOKS: Record<Look, string> = {
  primary: 'bg-beet text-on-beet border-beet hover:brightness-110',
  plain: 'bg-sheet text-ink border-rule hover:border-ink-2',
  quiet: 'border-transparent text-beet underline underline-offset-3 font-medium px-1.5! hover:bg-beet-soft',
  danger: 'bg-sheet text-brick border-brick hover:bg-brick-soft',
};

/** A button. `keys` shows the key that does the same. */
export function Button({
  look = 'plain',
  keys,
  className = '',
  children,
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look; keys?: string; children: ReactNode }) {
  return (
    <button
      type="button"
      {...rest}
      className={`inline-flex min-h-8 items-center justify-center gap-1.5 rounded-md border px-3 py-1.5 text-sm/4 font-semibold whitespace-nowrap max-sm:whitespace-normal cursor-pointer disabled:cursor-default disabled:opacity-55 ${LOOKS[look]} ${className}`}
    >
      {children}
      {keys && <Kbd>{keys}</Kbd>}
    </button>
  );
}

export function Kbd({ children }: { children: ReactNode }) {
  return <kbd className="rounded border border-b-2 border-rule bg-sheet px-1 py-px font-mono text-xs/4 font-medium text-ink-2">{children}</kbd>;
}
