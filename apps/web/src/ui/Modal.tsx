import { Dialog } from 'radix-ui';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { say } from '../words/say.js';

export function Modal({
  open,
  onClose,
  title,
  description,
  children,
  wide,
  full,
  foot,
  reads = false,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  description?: string;
  children: ReactNode;
  wide?: boolean;
  /** Takes the whole window. */
  full?: boolean;
  /** Stays in sight below what scrolls. */
  foot?: ReactNode;
  /** Nothing in it takes the focus, so what scrolls takes it itself. */
  reads?: boolean;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-50 bg-[#0006]" />
        <Dialog.Content
          {...(description ? {} : { 'aria-describedby': undefined })}
          className={`fixed left-1/2 z-50 flex w-[calc(100vw-32px)] -translate-x-1/2 flex-col rounded-lg border border-rule bg-sheet ${full ? 'top-4 h-[calc(100vh-32px)] max-w-[1500px]' : `top-[10vh] max-h-[80vh] ${wide ? 'max-w-3xl' : 'max-w-lg'}`}`}
        >
          <div className="flex items-start justify-between gap-4 px-5 pt-5 pb-3">
            <Dialog.Title className="min-w-0 text-lg/6 font-bold break-words">{title}</Dialog.Title>
            <Dialog.Close className="grid size-7 shrink-0 cursor-pointer place-items-center rounded hover:bg-paper" aria-label={say('Close')}>
              <X size={18} aria-hidden />
            </Dialog.Close>
          </div>
          <div className="min-h-0 flex-1 overflow-auto px-5 pb-5" tabIndex={reads ? 0 : undefined}>
            {description && <Dialog.Description className="mb-3 text-ink-2">{description}</Dialog.Description>}
            {children}
          </div>
          {foot && <div className="flex flex-wrap items-center gap-2 border-t border-rule px-5 py-3">{foot}</div>}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
