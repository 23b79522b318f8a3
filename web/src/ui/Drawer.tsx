import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import { type ReactNode, useRef } from "react";

/** Without `onClose` it stays until what it asks for is done. */
type Props = { open: boolean; onClose?: () => void; title: string; children: ReactNode };

/** The right drawer: a floating layer, the only place where a shadow is drawn. */
export function Drawer({ open, onClose, title, children }: Props) {
  // It is opened by a number, a key or a button anywhere: the hand goes back to where it was.
  const from = useRef<Element | null>(null);
  const was = useRef(false);
  if (open && !was.current) from.current = document.activeElement;
  was.current = open;
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose?.()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-ink/15" />
        <Dialog.Content
          aria-describedby={undefined}
          onCloseAutoFocus={(event) => {
            if (!(from.current instanceof HTMLElement) || !from.current.isConnected) return;
            event.preventDefault();
            from.current.focus();
          }}
          className="fixed inset-y-0 right-0 z-30 w-[26rem] max-w-full overflow-y-auto border-l border-ink bg-chalk p-5 shadow-xl"
        >
          <div className="mb-3 flex items-start justify-between gap-3">
            <Dialog.Title className="text-stage font-semibold leading-tight">{title}</Dialog.Title>
            {onClose && (
              <Dialog.Close aria-label="Close" className="p-1">
                <X size={18} aria-hidden="true" />
              </Dialog.Close>
            )}
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
