import { Dialog } from 'radix-ui';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';

export function Modal({
  open,
  onClose,
  title,
  description,
  children,
  wide,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  description?: string;
  children: ReactNode;
  wide?: boolean;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#0006]" />
        <Dialog.Content
          {...(description ? {} : { 'aria-describedby': undefined })}
          className={`fixed top-[10vh] left-1/2 z-50 max-h-[80vh] w-[calc(100vw-32px)] -translate-x-1/2 overflow-auto rounded-lg border border-rule bg-sheet p-5 ${wide ? 'max-w-3xl' : 'max-w-lg'}`}
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <Dialog.Title className="text-lg/6 font-bold">{title}</Dialog.Title>
            <Dialog.Close className="grid size-7 cursor-pointer place-items-center rounded hover:bg-paper" aria-label="Close">
              <X size={18} aria-hidden />
            </Dialog.Close>
          </div>
          {description && <Dialog.Description className="mb-3 text-ink-2">{description}</Dialog.Description>}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
